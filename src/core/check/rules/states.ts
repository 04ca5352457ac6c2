import { inspectionOf } from '../../kinds/inspections'
import { formatCount, significantNumber } from '../../formats/number'
import { startValue, type Model, type RowPolicy } from '../../model/model'
import { listNames } from '../../problem'
import { evaluatePolicy } from '../../plan/evaluate'
import type { CheckContext } from '../context'
import { walkTo } from '../search'
import type { CheckRule } from './rule'
import { leftOut, NOTHING, verdict, type Found } from '../verdict'

export const unreached: CheckRule = {
  title: 'states that nothing leads to',
  severity: 'warning',
  proves: 'Every state can be reached from some start.',
  judge({ model, search, own }) {
    const lost: number[] = []
    for (let s = 0; s < model.states; s++) if (search.steps[s] < 0) lost.push(s)
    const told = own.filter(({ rule }) => rule === 'unreached')
    const found: Found[] = told.map(({ where, cause, remedy, cells }) => ({ where, cause, remedy, cells }))
    const names = (states: readonly number[]) => listNames(states.map((s) => model.labels[s]))
    const endings = lost.filter((s) => model.ending[s])
    const others = lost.filter((s) => !model.ending[s])
    if (endings.length)
      found.push({
        where: model.labels[endings[0]],
        cause: `No episode can come to the ${endings.length === 1 ? 'ending' : 'endings'} ${names(endings)}.`,
        remedy: 'Let something lead there, or leave it out.',
        states: endings,
      })
    if (others.length)
      found.push({
        where: model.labels[others[0]],
        cause: `No episode can come to ${names(others)}.`,
        remedy: 'Let something lead there, start there, or leave them out.',
        states: others,
      })
    return verdict(found, `All ${formatCount(model.states)} states can be reached.`)
  },
}

export const sizeFact: CheckRule = {
  title: 'how the number of states comes about',
  severity: 'fact',
  proves: 'Where the states come from.',
  judge({ document, compiled, model }) {
    const how = inspectionOf(document).sizeStory(document, compiled)
    const endings = model.ending.reduce((sum, each) => sum + each, 0)
    return {
      found: [
        {
          where: 'states',
          cause: `${formatCount(model.states)} states, ${formatCount(endings)} of them endings, with ${formatCount(model.rows)} pairs of state and action${how ? `: ${how}` : ''}.`,
        },
      ],
    }
  },
}

/** States of an environment whose best memoryless policy is looked for, at the most. */
const MEMORYLESS_STATES = 2000
/** Policies that are evaluated on the way. */
const MEMORYLESS_TRIES = 4000
/** How much of a new action is tried. */
const SHARES = [1, 0.75, 0.5, 0.25]

export const lookAlikes: CheckRule = {
  title: 'states that look alike and want different actions',
  severity: 'warning',
  proves: 'States that look alike to the agent want the same action.',
  tellsTruth: true,
  judge(context) {
    const { model, search } = context
    if (model.observations === model.states) return NOTHING
    const { optimum } = context
    if (!optimum) return leftOut('No value is finite, so that no action is best.')
    const groups = groupsOf(model, search.steps)
    const differing = groups.filter((states) => states.length > 1 && !agree(model, optimum.ties, states))
    if (!differing.length)
      return groups.some(({ length }) => length > 1)
        ? { found: [], holds: 'States that look alike to the agent want the same action.' }
        : NOTHING
    // The two that are met soonest and want different actions.
    const [one, other] = firstPair(model, optimum.ties, differing, search.steps)
    const group = differing.find((states) => states.includes(one))!
    const names = `${model.labels[one]} and ${model.labels[other]}`
    return {
      found: [
        {
          where: names,
          cause: `${names} look alike to the agent, and no action is best in both${
            group.length > 2 ? `; ${formatCount(group.length)} states look like that` : ''
          }${
            differing.length > 1
              ? `. States that look alike want different actions in ${formatCount(differing.length - 1)} more ${differing.length > 2 ? 'cases' : 'case'}`
              : ''
          }.${lossOf(context)}`,
          remedy: 'Let the agent see more, or expect it to do worse than the optimum.',
          states: group,
          walk: walkTo(model, search, other),
        },
      ],
    }
  },
}

/** Reached states with actions, by what they look like. */
function groupsOf(model: Model, steps: Int32Array): number[][] {
  const groups: number[][] = Array.from({ length: model.observations }, () => [])
  for (let s = 0; s < model.states; s++)
    if (steps[s] >= 0 && !model.ending[s]) groups[model.observation[s]].push(s)
  return groups.filter(({ length }) => length > 0)
}

/** Whether some action is best in all of these states. */
function agree({ rowStart }: Model, ties: RowPolicy, states: readonly number[]): boolean {
  const width = rowStart[states[0] + 1] - rowStart[states[0]]
  for (let k = 0; k < width; k++) if (states.every((s) => ties[rowStart[s] + k] > 0)) return true
  return false
}

/** The two states that look alike and share no best action of which the later one is met soonest. */
function firstPair(
  model: Model,
  ties: RowPolicy,
  groups: readonly (readonly number[])[],
  steps: Int32Array,
): readonly [number, number] {
  let best: readonly [number, number] | null = null
  for (const states of groups) {
    const sorted = [...states].sort((x, y) => steps[x] - steps[y])
    for (const [i, other] of sorted.entries()) {
      if (best && steps[other] >= steps[best[1]]) break
      const one = sorted.slice(0, i).find((each) => !agree(model, ties, [each, other]))
      if (one !== undefined) best = [one, other]
    }
  }
  // Three and more can want different actions though every two of them agree.
  return best ?? [groups[0][0], groups[0][1]]
}

/**
 * The value of the start under the best policy that was found which acts on what is seen alone.
 * @returns null where none was found; undefined where none was looked for
 */
export function memorylessValue({
  model,
  discount,
  optimum,
  search,
}: Pick<CheckContext, 'model' | 'discount' | 'optimum' | 'search'>): number | null | undefined {
  if (!optimum || model.states > MEMORYLESS_STATES) return undefined
  return bestMemoryless(model, discount, groupsOf(model, search.steps), optimum.ties)
}

function lossOf(context: CheckContext): string {
  const { optimum } = context
  const best = memorylessValue(context)
  if (!optimum || best === undefined) return ''
  if (best === null) return ' No policy was found that gets along without telling them apart.'
  return ` The best policy that was found which acts on what is seen alone is worth ${significantNumber(best, 5)} from the start, the optimum ${significantNumber(optimum.start, 5)}.`
}

/**
 * The value of the start under the best policy that was found among those that act by what is seen alone, chance
 * allowed: each observation in turn is moved towards each of its actions, by several shares, while that helps (local
 * search as in Jaakkola, Singh & Jordan 1995; finding the best is hard, Littman 1994). A lower bound.
 * @returns null where none was found with a finite value
 */
export function bestMemoryless(
  model: Model,
  discount: number,
  groups: readonly (readonly number[])[],
  ties: RowPolicy,
): number | null {
  const { rowStart } = model
  const valueOf = (policy: RowPolicy) => {
    const { outcome, values } = evaluatePolicy(model, policy, discount)
    return outcome === 'solved' ? startValue(model, values) : -Infinity
  }
  let tries = 0
  let best = -Infinity
  // From all actions alike, and from what is best on average where states look alike.
  for (const begin of [null, ties]) {
    let policy = meanOver(model, groups, begin)
    let value = valueOf(policy)
    for (let improved = true; improved && tries < MEMORYLESS_TRIES;) {
      improved = false
      for (const states of groups) {
        const width = rowStart[states[0] + 1] - rowStart[states[0]]
        for (let k = 0; k < width && width > 1; k++)
          for (const share of SHARES) {
            if (++tries > MEMORYLESS_TRIES) break
            const moved = movedTo(model, policy, states, k, share)
            const worth = valueOf(moved)
            if (!(worth > value + 1e-9 * Math.max(1, Math.abs(value)))) continue
            policy = moved
            value = worth
            improved = true
          }
      }
    }
    best = Math.max(best, value)
  }
  return Number.isFinite(best) ? best : null
}

/** The same chances for all states that look alike: the mean of what a policy says in them. */
function meanOver(model: Model, groups: readonly (readonly number[])[], policy: RowPolicy | null): RowPolicy {
  const { rowStart } = model
  const mean = new Float64Array(model.rows)
  for (const states of groups) {
    const width = rowStart[states[0] + 1] - rowStart[states[0]]
    for (let k = 0; k < width; k++) {
      const share = policy
        ? states.reduce((sum, s) => sum + policy[rowStart[s] + k], 0) / states.length
        : 1 / width
      for (const s of states) mean[rowStart[s] + k] = share
    }
  }
  // What no episode comes to does not count, and still needs an action.
  for (let s = 0; s < model.states; s++) {
    const [from, to] = [rowStart[s], rowStart[s + 1]]
    if (from < to && mean.subarray(from, to).every((chance) => chance === 0)) mean[from] = 1
  }
  return mean
}

function movedTo(
  { rowStart }: Model,
  policy: RowPolicy,
  states: readonly number[],
  k: number,
  share: number,
): RowPolicy {
  const moved = policy.slice()
  for (const s of states)
    for (let r = rowStart[s]; r < rowStart[s + 1]; r++)
      moved[r] = (1 - share) * policy[r] + (r === rowStart[s] + k ? share : 0)
  return moved
}
