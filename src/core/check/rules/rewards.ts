import { inspectionOf } from '../../kinds/inspections'
import { formatCount, significantNumber } from '../../formats/number'
import type { Model } from '../../model/model'
import { rowOfOutcome, stateOfRow } from '../../model/model'
import { endlessGain } from '../../plan/endless-gain'
import { stepsToEnding } from '../../plan/reach'
import { solveOptimum } from '../../plan/solve'
import type { CheckContext } from '../context'
import { searchFrom, walkTo } from '../search'
import { likeliestOutcome, type Walk } from '../walk'
import { LOOKED_AT, PASSING, TOO_MANY_ROWS } from './ways'
import type { CheckRule } from './rule'
import { leftOut, NOTHING, verdict, type Found } from '../verdict'

/** Different rewards that are told one by one. */
const TOLD = 100
/** Outcomes that are looked at for the range of returns, at the most. */
const RANGE_WORK = 60_000_000
/** A range that still moves by less than this part of itself has settled. */
const SETTLED = 1e-9

export const rewardNever: CheckRule = {
  title: 'a reward that never occurs',
  severity: 'warning',
  proves: 'Every reward that is written down or drawn can occur.',
  judge({ model, document, compiled, happenings, own }) {
    const told = own.filter(({ rule }) => rule === 'reward-never')
    const titles = inspectionOf(document).rewardTitles(document, compiled)
    if (!titles.length && !told.length) return NOTHING
    if (model.rows > LOOKED_AT) return { ...leftOut(TOO_MANY_ROWS), found: told }
    const missing = new Set(titles)
    for (let r = 0; r < model.rows && missing.size; r++)
      for (const { parts, next } of happenings(r)) {
        for (const { title } of parts) missing.delete(title)
        // What is paid while time passes by itself is not told part by part.
        if (next < 0) return { ...leftOut(PASSING), found: told }
      }
    return verdict(
      [
        ...told,
        ...[...missing].map((title) => ({
          where: title,
          cause: `The reward “${title}” never occurs, or is always 0.`,
          remedy: 'Look at when it is paid, or leave it out.',
        })),
      ],
      titles.length ? 'Every reward that is written down or drawn can occur.' : undefined,
    )
  },
}

export const rewardsFact: CheckRule = {
  title: 'every reward that can occur',
  severity: 'fact',
  proves: 'Which rewards can occur, each with a place.',
  tellsTruth: true,
  judge({ model, search }) {
    const first = new Map<number, number>()
    let [least, most] = [-1, -1]
    for (let o = 0; o < model.outcomes; o++) {
      if (!first.has(model.outcomeReward[o]) && first.size <= TOLD) first.set(model.outcomeReward[o], o)
      if (least < 0 || model.outcomeReward[o] < model.outcomeReward[least]) least = o
      if (most < 0 || model.outcomeReward[o] > model.outcomeReward[most]) most = o
    }
    const told = (o: number) => significantNumber(model.outcomeReward[o], 6)
    if (first.size > TOLD)
      return {
        found: [least, most].map((o, i) => ({
          where: placeOf(model, o),
          cause: `There are more than ${TOLD} different rewards; the ${i ? 'largest' : 'smallest'} of a step is ${told(o)}.`,
          walk: withStep(model, search, o),
        })),
      }
    return {
      found: [...first.values()]
        .sort((x, y) => model.outcomeReward[x] - model.outcomeReward[y])
        // Those that differ by a rounding alone are told once.
        .filter((o, i, all) => i === 0 || told(o) !== told(all[i - 1]))
        .map((o) => ({
          where: placeOf(model, o),
          cause: `A step can pay ${told(o)}.`,
          walk: withStep(model, search, o),
        })),
    }
  },
}

function placeOf(model: Model, outcome: number): string {
  const row = rowOfOutcome(model, outcome)
  return `${model.labels[stateOfRow(model, row)]}, ${model.actions[model.rowAction[row]]}`
}

/** The shortest way to a step, with that step; null where no episode comes there. */
function withStep(model: Model, search: CheckContext['search'], outcome: number): Walk | null {
  const state = stateOfRow(model, rowOfOutcome(model, outcome))
  if (search.steps[state] < 0) return null
  const { start, outcomes } = walkTo(model, search, state)
  return { start, outcomes: [...outcomes, outcome] }
}

export const returnsFact: CheckRule = {
  title: 'the least and the largest return',
  severity: 'fact',
  proves: 'Between which returns every episode lies, over all actions and all outcomes.',
  tellsTruth: true,
  judge({ model, discount }) {
    const range = returnRange(model, discount)
    if (!range)
      return leftOut(
        'Undiscounted and without a step limit, returns have no bounds that would be found here.',
      )
    const { least, most, exact } = range
    return {
      found: [
        {
          where: 'returns',
          cause: `${exact ? 'The return of an episode lies between' : 'The return of an episode lies at the most between'} ${significantNumber(least, 6)} and ${significantNumber(most, 6)}, discounted by ${significantNumber(discount, 6)}${model.cap ? `, within ${formatCount(model.cap)} steps` : ''}.`,
        },
      ],
    }
  },
}

/**
 * The least and the largest discounted return that an episode within the step limit can have: over all actions and all
 * outcomes with a chance above 0. By the same backups as values, with the extreme in place of the mean.
 * @returns `exact`: whether both ends can be had; otherwise they are bounds. Null where there are none, undiscounted.
 */
export function returnRange(
  model: Model,
  discount: number,
): { readonly least: number; readonly most: number; readonly exact: boolean } | null {
  const { states, rowStart, outcomeStart, outcomeState, outcomeReward, outcomeDiscount } = model
  let low = new Float64Array(states)
  let high = new Float64Array(states)
  let [nextLow, nextHigh] = [new Float64Array(states), new Float64Array(states)]
  const most = Math.max(1, Math.floor(RANGE_WORK / Math.max(1, 2 * model.outcomes)))
  const limit = Math.min(model.cap || Infinity, most)
  let settled = false
  let k = 0
  for (; k < limit && !settled; k++) {
    let change = 0
    let size = 1
    for (let s = 0; s < states; s++) {
      const from = outcomeStart[rowStart[s]]
      const to = outcomeStart[rowStart[s + 1]]
      let [l, h] = from < to ? [Infinity, -Infinity] : [0, 0]
      for (let o = from; o < to; o++) {
        const weight = outcomeDiscount ? discount * outcomeDiscount[o] : discount
        const down = outcomeReward[o] + weight * low[outcomeState[o]]
        const up = outcomeReward[o] + weight * high[outcomeState[o]]
        if (down < l) l = down
        if (up > h) h = up
      }
      nextLow[s] = l
      nextHigh[s] = h
      change = Math.max(change, Math.abs(l - low[s]), Math.abs(h - high[s]))
      size = Math.max(size, Math.abs(l), Math.abs(h))
    }
    ;[low, nextLow] = [nextLow, low]
    ;[high, nextHigh] = [nextHigh, high]
    settled = change <= SETTLED * size * (1 - discount) || change === 0
  }
  const exact = settled || k === model.cap
  if (!exact && discount === 1) return null
  // What the steps that were not looked at can add at the most.
  const size = outcomeReward.reduce((largest, reward) => Math.max(largest, Math.abs(reward)), 0)
  const rest = exact ? 0 : (discount ** k * size) / (1 - discount)
  return {
    least: model.startState.reduce((least, s) => Math.min(least, low[s]), Infinity) - rest,
    most: model.startState.reduce((largest, s) => Math.max(largest, high[s]), -Infinity) + rest,
    exact,
  }
}

export const rewardLoop: CheckRule = {
  title: 'a cycle that pays',
  severity: 'warning',
  proves: 'Going round for ever is not worth more than coming to an ending.',
  tellsTruth: true,
  judge(context) {
    const { model, discount, toEnding } = context
    const starts = [...model.startState].filter((s) => toEnding[s] >= 0)
    if (!starts.length) return NOTHING
    const holds = 'No cycle is worth circling for: the best policy comes to an ending.'
    // Where nothing pays on the way there is nothing to circle for.
    if (!paysOnTheWay(model)) return { found: [], holds }
    const circling = discount === 1 ? circlesForEver(model) : circlesAtBest(context, starts)
    if (!circling) return { found: [], holds }
    const { walk, cycle, gain } = circling
    return {
      found: [
        {
          where: model.labels[cycle.start],
          cause: `${
            discount === 1
              ? 'Going round pays for ever, so that no value is finite'
              : 'The best policy never comes to an ending although it could: going round is worth more'
          }. The cycle has ${formatCount(cycle.outcomes.length)} ${cycle.outcomes.length === 1 ? 'step' : 'steps'} and pays ${significantNumber(gain, 6)}.`,
          remedy: 'Let it pay once an episode, make each step cost something, or make the ending worth more.',
          states: cycle.outcomes.map((o) => model.outcomeState[o]),
          walk,
        },
      ],
    }
  },
}

/** Whether a step that ends no episode can pay more than nothing. */
function paysOnTheWay({ outcomes, outcomeState, outcomeReward, ending }: Model): boolean {
  for (let o = 0; o < outcomes; o++) if (outcomeReward[o] > 0 && !ending[outcomeState[o]]) return true
  return false
}

interface Circling {
  readonly walk: Walk
  readonly cycle: Walk
  readonly gain: number
}

/** At discount 1: a way round among the states in which reward is collected for ever. */
function circlesForEver(model: Model): Circling | null {
  const gain = endlessGain(model)
  if (gain.kind !== 'positive') return null
  const inside = new Set(gain.states)
  const within = solveOptimum(model, 0.999)
  if (!within) return null
  const from = gain.states.find((s) => searchFrom(model).steps[s] >= 0)
  return from === undefined ? null : followed(model, within.policy, from, inside)
}

/** Below discount 1: the way round that the best policy goes from a start. */
function circlesAtBest({ model, optimum }: CheckContext, starts: readonly number[]): Circling | null {
  if (!optimum) return null
  const ends = stepsToEnding(model, optimum.ties)
  const from = starts.find((s) => ends[s] < 0)
  if (from === undefined) return null
  const found = followed(model, optimum.policy, from, null)
  return found && found.gain > 0 ? found : null
}

/** Follows one action a state and the likeliest outcomes until a state comes again. */
function followed(
  model: Model,
  policy: Float64Array,
  from: number,
  inside: ReadonlySet<number> | null,
): Circling | null {
  const met = new Map<number, number>()
  const outcomes: number[] = []
  let state = from
  while (!met.has(state)) {
    met.set(state, outcomes.length)
    let row = model.rowStart[state]
    while (row < model.rowStart[state + 1] && policy[row] === 0) row++
    if (row === model.rowStart[state + 1]) return null
    outcomes.push(likeliestOutcome(model, row))
    state = model.outcomeState[outcomes[outcomes.length - 1]]
    if (inside && !inside.has(state)) return null
  }
  const round = outcomes.slice(met.get(state))
  const search = searchFrom(model)
  const before = walkTo(model, search, from)
  return {
    walk: { start: before.start, outcomes: [...before.outcomes, ...outcomes] },
    cycle: { start: state, outcomes: round },
    gain: round.reduce((sum, o) => sum + model.outcomeReward[o], 0),
  }
}

export const loopsFact: CheckRule = {
  title: 'which states form closed loops',
  severity: 'fact',
  proves: 'In which sets of states an agent can stay for ever.',
  judge({ model, components: { components } }) {
    if (!components.length)
      return { found: [], holds: 'Nowhere can an agent stay for ever: every policy comes to an ending.' }
    const found = components.slice(0, 5).map((states): Found => ({
      where: model.labels[states[0]],
      cause: `An agent can stay for ever among ${states.length === 1 ? model.labels[states[0]] : `${formatCount(states.length)} states around ${model.labels[states[0]]}`}.`,
      states,
    }))
    const more = components.length - found.length
    return {
      found: more
        ? [...found, { where: 'loops', cause: `There are ${formatCount(more)} more such sets.` }]
        : found,
    }
  },
}
