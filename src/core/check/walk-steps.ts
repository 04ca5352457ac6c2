import type { Happening, Happenings, RewardPart } from '../kinds/happening'
import { rowOf, rowOfOutcome, stateOfRow, type Model } from '../model/model'
import type { StoryStep } from '../problem'
import { likeliestOutcome, type Walk } from './walk'

/** A step of a walk, in full. */
export interface WalkStep {
  readonly state: number
  readonly row: number
  readonly next: number
  /** What was carried out in place of the action; null where it was that one, or where that differs. */
  readonly instead: string | null
  /** What chance did: `sold = 2`; several that lead to the same are joined by “or”. Empty where nothing fell. */
  readonly fell: string
  /** How likely this was, given state and action. */
  readonly probability: number
  readonly reward: number
  /** What the reward is made of, where every way to this outcome pays the same; empty otherwise. */
  readonly parts: readonly RewardPart[]
  /** The rewards so far, from the start of the walk: discounted, and as they are. */
  readonly collected: number
  readonly sum: number
}

/** Ways that are named in one step at the most. */
const NAMED = 3
/** Two rewards are the same up to so much of their size. */
const SAME = 1e-9

/** The steps of a walk, with the outcome of each. @param discount  of one step */
export function walkSteps(model: Model, happenings: Happenings, walk: Walk, discount: number): WalkStep[] {
  let [collected, sum, weight] = [0, 0, 1]
  return walk.outcomes.map((outcome): WalkStep => {
    const row = rowOfOutcome(model, outcome)
    const reward = model.outcomeReward[outcome]
    collected += weight * reward
    sum += reward
    weight *= discount * (model.outcomeDiscount?.[outcome] ?? 1)
    const ways = waysTo(model, happenings(row), row, outcome)
    return {
      state: stateOfRow(model, row),
      row,
      next: model.outcomeState[outcome],
      instead: common(ways.map(({ instead }) => instead)) ?? null,
      fell: fellOf(ways),
      probability: chanceOf(model, row, outcome),
      reward,
      parts: samePay(ways, reward) ? ways[0].parts : [],
      collected,
      sum,
    }
  })
}

/** The chance of an outcome, together with those of the row that are just like it. */
export function chanceOf(model: Model, row: number, outcome: number): number {
  const { outcomeStart, outcomeState, outcomeReward, outcomeProbability } = model
  let chance = 0
  for (let o = outcomeStart[row]; o < outcomeStart[row + 1]; o++)
    if (outcomeState[o] === outcomeState[outcome] && outcomeReward[o] === outcomeReward[outcome])
      chance += outcomeProbability[o]
  return chance
}

/** The ways in which a step can have come to an outcome of its row. */
export function waysTo(
  model: Model,
  all: readonly Happening[],
  row: number,
  outcome: number,
): readonly Happening[] {
  const { outcomeStart, outcomeState, outcomeReward } = model
  const next = outcomeState[outcome]
  const there = all.filter((way) => way.next === next)
  // Time passed by itself before it came there.
  if (!there.length) return all.filter((way) => way.next < 0)
  let alike = 0
  for (let o = outcomeStart[row]; o < outcomeStart[row + 1]; o++) if (outcomeState[o] === next) alike++
  if (alike === 1) return there
  return there.filter((way) => near(payOf(way), outcomeReward[outcome]))
}

function payOf({ parts }: Happening): number {
  return parts.reduce((sum, { amount }) => sum + amount, 0)
}

function near(one: number, other: number): boolean {
  return Math.abs(one - other) <= SAME * Math.max(1, Math.abs(other))
}

function samePay(ways: readonly Happening[], reward: number): boolean {
  return ways.length > 0 && ways.every((way) => way.next >= 0 && near(payOf(way), reward))
}

function common<T>(values: readonly T[]): T | undefined {
  return values.every((value) => value === values[0]) ? values[0] : undefined
}

function fellOf(ways: readonly Happening[]): string {
  const told = [...new Set(ways.map(({ fell }) => fell).filter(Boolean))]
  const shown = told.slice(0, NAMED).join(' or ')
  return told.length > NAMED ? `${shown} or ${told.length - NAMED} other ways` : shown
}

/** A walk told in words, as stories are. */
export function storyOf(model: Model, steps: readonly WalkStep[]): StoryStep[] {
  return steps.map(({ state, row, fell, instead }) => ({
    state: model.labels[state],
    action: model.actions[model.rowAction[row]],
    chances: [fell, instead === null ? '' : `carried out: ${instead}`].filter(Boolean).join(', '),
  }))
}

/**
 * A story told in words as a walk through the model; null where it cannot be found there. States that pass by themselves
 * are no states of the model: what they lead to is.
 */
export function walkOfStory(model: Model, path: readonly StoryStep[]): Walk | null {
  const number = new Map(model.labels.map((label, state) => [label, state]))
  const known = path.filter(({ state }) => number.has(state))
  if (!known.length) return null
  const outcomes: number[] = []
  for (let i = 0; i < known.length; i++) {
    const row = rowOf(model, number.get(known[i].state)!, model.actions.indexOf(known[i].action))
    if (row < 0) return null
    // Where the last step leads is not told: to its likeliest outcome.
    const next = i + 1 < known.length ? number.get(known[i + 1].state)! : -1
    const outcome = likeliestOutcome(model, row, next)
    if (outcome < 0) return null
    outcomes.push(outcome)
  }
  return { start: number.get(known[0].state)!, outcomes }
}

/** The action that was chosen in a step, by its name. */
export function chosenAction({ actions, rowAction }: Model, { row }: Pick<WalkStep, 'row'>): string {
  return actions[rowAction[row]]
}
