import type { World } from '../learn/world'
import { rowOf, type Model } from '../model/model'
import { RandomStream } from '../random/generator'
import { outcomeOf, type Walk } from './walk'

/** A step taken by hand: an action, by its number among those of the model, and what is to come of it. */
export interface HandMove {
  readonly action: number
  /** The outcome of the model that is forced; null where it is drawn. */
  readonly forced: number | null
}

/** An episode played by hand: with the same numbers it is the same episode. */
export interface Hand {
  readonly seed: number
  /** The number of the episode, from 0: the draws are those of the trial with that number. */
  readonly episode: number
  /** A state to begin in; null for a start that is drawn. */
  readonly start: number | null
  readonly moves: readonly HandMove[]
}

/** How an episode by hand stands. */
export interface HandState {
  readonly walk: Walk
  /** Where it is now. */
  readonly at: number
  /** Whether nothing more can be done: it has ended, or the step limit cut it off. */
  readonly over: 'ended' | 'cut off' | null
}

/**
 * Plays the moves from the beginning. Draws come from the streams of `playTrial`, one a step with more than one outcome,
 * whether it is forced or not: what falls later does not depend on what was forced.
 * @param cap  steps after which the episode is cut off; 0 for none
 * @returns the moves up to the first that is not possible
 */
export function playHand(world: World, { seed, episode, start, moves }: Hand, cap: number): HandState {
  const { model } = world
  const stream = new RandomStream(seed, 'environment', episode)
  const drawn = world.begin(stream)
  let at = start ?? drawn
  const walk = { start: at, outcomes: [] as number[] }
  for (const { action, forced } of moves) {
    const row = world.ending[at] || (cap > 0 && walk.outcomes.length >= cap) ? -1 : rowOf(model, at, action)
    if (row < 0) break
    world.step(at, row - model.rowStart[at], stream)
    const isOfRow =
      forced !== null && forced >= model.outcomeStart[row] && forced < model.outcomeStart[row + 1]
    const outcome = isOfRow ? forced : outcomeOf(model, row, world.next, world.reward)
    walk.outcomes.push(outcome)
    at = model.outcomeState[outcome]
  }
  return {
    walk,
    at,
    over: world.ending[at] ? 'ended' : cap > 0 && walk.outcomes.length >= cap ? 'cut off' : null,
  }
}

/** The action that leads from a state to another one most likely; null where none can. */
export function actionToward(
  { rowStart, rowAction, outcomeStart, outcomeState, outcomeProbability }: Model,
  from: number,
  to: number,
): number | null {
  let best: number | null = null
  let most = 0
  for (let r = rowStart[from]; r < rowStart[from + 1]; r++) {
    let chance = 0
    for (let o = outcomeStart[r]; o < outcomeStart[r + 1]; o++)
      if (outcomeState[o] === to) chance += outcomeProbability[o]
    if (chance > most + 1e-12) {
      most = chance
      best = rowAction[r]
    }
  }
  return best
}

/** The actions that are possible in a state, by their numbers, in the order of its rows. */
export function possibleActions({ rowStart, rowAction }: Model, state: number): number[] {
  return Array.from(rowAction.subarray(rowStart[state], rowStart[state + 1]))
}
