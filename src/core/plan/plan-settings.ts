import { choice, number, type Setting, type ValueOf } from '../settings/setting'
import type { RowPolicy } from '../model/model'
import { SWEEP_ORDERS } from './sweep-order'

/**
 * Every setting of a plan besides the discount, which is the environment's, and the policy: its range, its default, its
 * words, its flag. Fields and the command line are made from these.
 */
export const PLAN_SETTINGS = {
  /** The error, in units of reward, that every value is guaranteed to be within at the end. */
  tolerance: number({
    label: 'Tolerance',
    hint: 'Sweeps stop when every value is guaranteed to be this close to the answer.',
    min: 0,
    max: 1e6,
    aboveMin: true,
    usual: 1e-9,
    flag: {
      name: 'tolerance',
      argument: '<number>',
      help: 'the largest error a value may have, in units of reward; default 1e-9',
    },
  }),
  /** Steps an episode lasts, for backward induction. */
  horizon: number({
    label: 'Horizon',
    hint: 'How many steps an episode lasts.',
    unit: 'steps',
    whole: true,
    min: 1,
    max: 1_000_000,
    usual: 20,
    flag: {
      name: 'horizon',
      argument: '<steps>',
      help: 'plan for exactly so many steps, by backward induction',
    },
  }),
  /** In which order a sweep in place goes through the states. */
  order: choice({
    label: 'Order of a sweep',
    hint: 'In which order the states are backed up.',
    options: SWEEP_ORDERS,
    usual: 'from-endings',
    flag: { name: 'order', argument: '<order>', help: 'of a sweep in place; default from-endings' },
  }),
  /** Sweeps of evaluation between two improvements of modified policy iteration. */
  evaluations: number({
    label: 'Sweeps of evaluation',
    hint: 'Before the policy is improved again.',
    whole: true,
    min: 1,
    max: 10_000,
    usual: 5,
    flag: {
      name: 'evaluations',
      argument: '<count>',
      help: 'sweeps of evaluation before the policy is improved again; default 5',
    },
  }),
  /** How policy iteration evaluates a policy. */
  evaluation: choice({
    label: 'Evaluation',
    hint: 'How the policy is evaluated. A linear solve counts no backups.',
    options: { sweeps: 'by sweeps', solve: 'by a linear solve' },
    usual: 'sweeps',
    flag: { name: 'evaluation', argument: '<how>', help: 'how policy iteration evaluates; default sweeps' },
  }),
} as const satisfies Readonly<Record<string, Setting>>

export type PlanSettingName = keyof typeof PLAN_SETTINGS
export const PLAN_SETTING_NAMES = Object.keys(PLAN_SETTINGS) as PlanSettingName[]

/** What is chosen of them. */
export type ChosenPlanSettings = { readonly [N in PlanSettingName]: ValueOf<(typeof PLAN_SETTINGS)[N]> }

export interface PlanSettings extends ChosenPlanSettings {
  /** 0 to 1 */
  readonly discount: number
  /** Sweeps after which a plan is given up. */
  readonly sweeps: number
  /** [rows] the policy that is evaluated, or that policy iteration begins with; null for all actions equally often. */
  readonly policy: RowPolicy | null
  /**
   * [states] values to begin with, those of an earlier plan of nearly the same model; null for the method's own.
   * Left aside at discount 1, where a start that is too high may never come down, and by backward induction.
   */
  readonly initial: Float64Array | null
}

/** What a plan begins with, but for the discount. */
export const FIRST_CHOSEN = Object.fromEntries(
  PLAN_SETTING_NAMES.map((name) => [name, PLAN_SETTINGS[name].usual]),
) as unknown as ChosenPlanSettings

/** The chosen settings out of something that holds more. */
export function chosenOf(from: ChosenPlanSettings): ChosenPlanSettings {
  return Object.fromEntries(
    PLAN_SETTING_NAMES.map((name) => [name, from[name]]),
  ) as unknown as ChosenPlanSettings
}

/** What a plan is made with where nobody says otherwise. */
export const PLAN_DEFAULTS: PlanSettings = {
  ...FIRST_CHOSEN,
  discount: 0.95,
  sweeps: 1_000_000,
  policy: null,
  initial: null,
}
