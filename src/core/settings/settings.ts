import { formatCount, significantNumber } from '../formats/number'
import { constant, scheduleInBrief, type Schedule } from '../learn/schedule'
import type { RowPolicy } from '../model/model'
import { exploration } from './exploration'
import { LARGE, POLICY_SETTINGS } from './policy-settings'
import { choice, kind, number, own, type Setting, type ValueOf } from './setting'

/** What the table holds before the first update; endings are always worth 0. */
export type StartTable =
  | { readonly kind: 'zero' }
  /** Optimistic, if it is more than can be had: then everything is tried by itself. */
  | { readonly kind: 'constant'; readonly value: number }
  /** Uniform between −spread and spread. */
  | { readonly kind: 'random'; readonly spread: number }

/** When a run is over before its last episode. */
export type StopRule =
  | { readonly kind: 'episodes' }
  /** As soon as the mean return of the last `over` episodes is at least this. */
  | { readonly kind: 'mean-return'; readonly atLeast: number; readonly over: number }
  | { readonly kind: 'steps'; readonly count: number }

export const RATE_RANGE = { min: 0, max: 1000, aboveMin: true }

/**
 * Every setting of a run, once: its range, what it is to begin with, its words, its flag. Links, files, fields and
 * the command line are made from these. In the order in which they are asked for.
 */
export const SETTINGS = {
  learningRate: own<Schedule>({
    label: 'Learning rate',
    hint: 'How far each update goes towards its target.',
    // That of the method.
    usual: null,
    flag: { name: 'learning-rate', argument: '<number>', help: 'default: the method’s own' },
    fromFlag: { range: RATE_RANGE, read: constant },
    brief: 'rate',
    inBrief: scheduleInBrief,
  }),
  /** Of the table of values that an actor-critic, or a learned baseline, keeps beside its preferences. */
  criticRate: own<Schedule>({
    label: 'Critic’s learning rate',
    hint: 'How far each update of the values goes towards its target.',
    usual: constant(0.1),
    flag: { name: 'critic-rate', argument: '<number>', help: 'default 0.1' },
    fromFlag: { range: RATE_RANGE, read: constant },
    brief: 'critic',
    inBrief: scheduleInBrief,
  }),
  exploration,
  /** 0 to 1; that of the environment unless said otherwise */
  discount: number({
    label: 'Discount',
    hint: 'What a reward one step later is worth now.',
    min: 0,
    max: 1,
    usual: null,
    flag: {
      name: 'discount',
      argument: '<number>',
      help: '0 to 1; default: what the file says, 0.95 for a list',
    },
  }),
  episodes: number({
    label: 'Episodes',
    hint: 'The run is over after so many episodes.',
    whole: true,
    min: 1,
    max: 10_000_000,
    usual: 2000,
    flag: { name: 'episodes', argument: '<count>', help: 'default 2000' },
  }),
  /** Steps after which an episode is cut off, at least 1; that of the environment unless said otherwise. */
  cap: number({
    label: 'Step limit',
    hint: 'Steps after which an episode is cut off. Being cut off is not the same as ending.',
    whole: true,
    min: 1,
    max: 1_000_000,
    usual: null,
    flag: {
      name: 'cap',
      argument: '<steps>',
      help: 'cut episodes off; default: what the file says, 200 where it says nothing (a list, a map, a rulebook), 1000 where it says 0',
    },
  }),
  seed: number({
    label: 'Seed',
    hint: 'The same seed gives the same run, here and on the command line.',
    whole: true,
    min: 0,
    max: Number.MAX_SAFE_INTEGER,
    usual: 1,
    flag: { name: 'seed', argument: '<seed>', help: 'default 1' },
    brief: 'seed',
  }),
  /** The number of a run among those with the same seed, from 0. */
  run: number({
    label: 'Run',
    hint: 'The number of the run among those with this seed.',
    // A single run is chosen in Seeds.
    shown: 'never',
    whole: true,
    min: 0,
    max: 1_000_000,
    usual: 0,
    flag: { name: 'run', argument: '<number>', help: 'the number of the first of them; default 0' },
  }),
  /** n of n-step methods */
  lookahead: number({
    label: 'n (steps)',
    hint: 'How many rewards are waited for before an update. With 1 it is SARSA.',
    whole: true,
    min: 1,
    max: 1000,
    usual: 4,
    flag: { name: 'lookahead', argument: '<count>', help: 'rewards that n-step methods wait for' },
    brief: 'n',
  }),
  /** λ: how much of a trace is left after a step, besides the discount */
  lambda: number({
    label: 'λ',
    hint: 'How much of a trace is left after a step, besides the discount. 0: only the last step learns; 1: the whole episode.',
    min: 0,
    max: 1,
    usual: 0.8,
    flag: { name: 'lambda', argument: '<number>', help: 'how much of a trace is left after a step, 0 to 1' },
    brief: 'λ',
  }),
  traces: choice({
    label: 'Traces',
    hint: 'Whether a visit sets a trace to 1, or adds 1 to it.',
    options: { replacing: 'replacing', accumulating: 'accumulating' },
    usual: 'replacing',
    flag: { name: 'traces', argument: '<kind>', help: 'what a second visit does to a trace' },
  }),
  /** Which visits of an episode a Monte Carlo method counts. */
  counted: choice({
    label: 'Visits counted',
    hint: 'Which visits of an episode are followed by a return that counts.',
    options: { first: 'first visits', every: 'every visit' },
    usual: 'first',
    flag: { name: 'counted', argument: '<visits>', help: 'the visits a Monte Carlo method counts' },
  }),
  planning: number({
    label: 'Planning updates per step',
    hint: 'Updates from the learned model after each step in the environment.',
    whole: true,
    min: 0,
    max: 1000,
    usual: 10,
    flag: { name: 'planning', argument: '<count>', help: 'updates from the learned model after each step' },
  }),
  threshold: number({
    label: 'Threshold',
    hint: 'A value that is this close to its backup is left as it is.',
    min: 0,
    max: LARGE,
    usual: 0.001,
    flag: {
      name: 'threshold',
      argument: '<number>',
      help: 'the smallest difference that prioritised sweeping backs up',
    },
  }),
  ...POLICY_SETTINGS,
  start: kind<StartTable>({
    label: 'Initial values',
    shown: 'more',
    hint: 'What is known before the first update. Values above anything that can be earned are optimistic: every action then gets tried. Endings are always 0.',
    usual: { kind: 'zero' },
    kinds: {
      zero: { title: 'zero', usual: { kind: 'zero' }, numbers: {} },
      constant: {
        title: 'the same number',
        usual: { kind: 'constant', value: 10 },
        numbers: {
          value: {
            label: 'Number',
            hint: 'What every cell of the table begins with.',
            min: -LARGE,
            max: LARGE,
          },
        },
      },
      random: {
        title: 'small random numbers',
        usual: { kind: 'random', spread: 0.01 },
        numbers: {
          spread: {
            label: 'Up to ±',
            hint: 'Cells begin anywhere between minus and plus this.',
            min: 0,
            max: LARGE,
          },
        },
      },
    },
  }),
  ties: choice({
    label: 'Tie-breaking',
    shown: 'more',
    hint: 'Which of several best actions is taken. With the first, a new agent whose values are all equal keeps taking the same action, even into a wall.',
    options: { random: 'random', first: 'the first' },
    usual: 'random',
    flag: { name: 'ties', argument: '<way>', help: 'which of several best actions is taken' },
  }),
  stop: kind<StopRule>({
    label: 'Stops',
    shown: 'more',
    hint: 'When the run is over before all its episodes are played.',
    usual: { kind: 'episodes' },
    kinds: {
      episodes: { title: 'after all episodes', usual: { kind: 'episodes' }, numbers: {} },
      'mean-return': {
        title: 'when the mean return is high',
        usual: { kind: 'mean-return', atLeast: 0, over: 100 },
        numbers: {
          atLeast: {
            label: 'Mean of at least',
            hint: 'The run is over as soon as the mean return is this high.',
            min: -LARGE,
            max: LARGE,
          },
          over: {
            label: 'Over (episodes)',
            hint: 'How many episodes the mean is taken over.',
            whole: true,
            min: 1,
            max: 1_000_000,
          },
        },
      },
      steps: {
        title: 'after so many steps',
        usual: { kind: 'steps', count: 10_000 },
        numbers: {
          count: {
            label: 'Steps',
            hint: 'The run is over after so many steps.',
            whole: true,
            min: 1,
            max: 1e12,
          },
        },
      },
    },
  }),
} as const satisfies Readonly<Record<string, Setting>>

export type SettingName = keyof typeof SETTINGS
/** Settings with a form of their own. */
export type OwnSettingName = {
  [N in SettingName]: (typeof SETTINGS)[N] extends { type: 'own' } ? N : never
}[SettingName]
export const SETTING_NAMES = Object.keys(SETTINGS) as SettingName[]

export function setting(name: SettingName): Setting {
  return SETTINGS[name]
}

/** Settings that every method has; the others mean something to those that name them. */
export const COMMON_SETTINGS = [
  'discount',
  'episodes',
  'cap',
  'seed',
  'run',
  'stop',
] as const satisfies readonly SettingName[]
export type CommonSetting = (typeof COMMON_SETTINGS)[number]
/** What a method may have besides; `policy` is the one that it follows. */
export type MethodSetting = Exclude<SettingName, CommonSetting> | 'policy'

/** Whether a run has a setting. @param settings  those of its method */
export function isUsed(name: SettingName, settings: readonly MethodSetting[]): boolean {
  return [...COMMON_SETTINGS, ...settings].includes(name)
}

/** What every learner needs to be told; a method uses the part that its entry in the registry names. */
export type LearnSettings = { readonly [N in SettingName]: ValueOf<(typeof SETTINGS)[N]> } & {
  /** [model rows] the policy that a prediction method follows; null for all actions equally often. */
  readonly policy: RowPolicy | null
}

type Usual = Exclude<SettingName, 'discount' | 'cap' | 'learningRate'>

/** What a run begins with, but for what the environment and the method say. */
export const LEARN_DEFAULTS: Pick<LearnSettings, Usual | 'learningRate' | 'policy'> = {
  ...(Object.fromEntries(SETTING_NAMES.map((name) => [name, SETTINGS[name].usual])) as Pick<
    LearnSettings,
    Usual
  >),
  learningRate: constant(0.1),
  policy: null,
}

/** A value in a line of settings: `rate 0.1`; empty where the line leaves it out. */
export function inBrief<N extends SettingName>(name: N, value: LearnSettings[N]): string {
  const { brief, ...entry } = setting(name)
  if (brief === null) return ''
  const text =
    entry.type === 'own'
      ? entry.inBrief(value)
      : entry.type === 'number'
        ? entry.whole
          ? formatCount(value as number)
          : significantNumber(value as number)
        : ''
  return `${brief} ${text}`.trim()
}

/** The cap a run gets when neither the person nor the environment names one: learning needs some. */
export function capFor(environmentCap: number): number {
  return environmentCap || 1000
}
