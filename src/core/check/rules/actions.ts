import { formatCount, significantNumber } from '../../formats/number'
import { kindOf } from '../../kinds/kinds'
import { stateOfRow, type Model } from '../../model/model'
import { listNames } from '../../problem'
import { walkTo } from '../search'
import { likeliestOutcome } from '../walk'
import type { CheckContext } from '../context'
import type { CheckRule } from './rule'
import { LOOKED_AT, TOO_MANY_ROWS } from './ways'
import { leftOut, NOTHING, verdict, type Found } from '../verdict'

export const impossiblePolicy: CheckRule = {
  title: 'a drawn policy that names an impossible action',
  severity: 'error',
  proves: 'The drawn policy names possible actions only.',
  judge({ model, document, search }) {
    const drawn = Object.entries(document.policy ?? {})
    if (!drawn.length) return NOTHING
    const number = new Map(model.labels.map((label, s) => [label, s]))
    const wrong = drawn.flatMap(([label, action]) => {
      const state = number.get(label)
      // What was drawn for a place that is gone says nothing wrong of those that are there.
      if (state === undefined || model.ending[state]) return []
      for (let r = model.rowStart[state]; r < model.rowStart[state + 1]; r++)
        if (model.actions[model.rowAction[r]] === action) return []
      return [{ state, action }]
    })
    if (!wrong.length) return { found: [], holds: 'The drawn policy names possible actions only.' }
    const [{ state, action }] = wrong
    return {
      found: [
        {
          where: model.labels[state],
          cause: `The drawn policy says ${action}, which is not possible there${wrong.length > 1 ? `, and so it is in ${formatCount(wrong.length - 1)} other states` : ''}.`,
          remedy: 'Draw another action there; until then all that are possible are taken equally often.',
          states: wrong.map((each) => each.state),
          walk: search.steps[state] < 0 ? null : walkTo(model, search, state),
        },
      ],
    }
  },
}

export const neverPossible: CheckRule = {
  title: 'an action that is never possible',
  severity: 'warning',
  proves: 'Every action is possible in some state.',
  judge({ model, own }) {
    const told = own.filter(({ rule }) => rule === 'never-possible')
    const covered = new Set(told.flatMap(({ about = [] }) => about))
    const possible = new Set(model.rowAction)
    const missing = model.actions.filter((action, a) => !possible.has(a) && !covered.has(action))
    return verdict(
      [
        ...told.map(({ where, cause, remedy, span }) => ({ where, cause, remedy, span })),
        ...(missing.length
          ? [
              {
                where: missing[0],
                cause:
                  missing.length === 1
                    ? `The action ${missing[0]} is possible in no state that can be reached.`
                    : `${formatCount(missing.length)} actions are possible in no state that can be reached: ${listNames(missing)}.`,
                remedy: 'Look at when they are possible, or leave them out.',
              },
            ]
          : []),
      ],
      'Every action is possible in some state.',
    )
  },
}

export const idleAction: CheckRule = {
  title: 'an action that never changes anything',
  severity: 'warning',
  proves: 'Every action leads out of some state, or pays differently from time to time.',
  tellsTruth: true,
  judge({ model, search }) {
    const { rowAction, outcomeStart, outcomeState, outcomeReward, actions } = model
    /** [actions] the one reward of an action that always stays; NaN when it does more, null when it was not met */
    const pays: (number | null)[] = actions.map(() => null)
    for (let r = 0, s = 0; r < model.rows; r++) {
      while (model.rowStart[s + 1] <= r) s++
      if (search.steps[s] < 0) continue
      const a = rowAction[r]
      for (let o = outcomeStart[r]; o < outcomeStart[r + 1]; o++)
        if (outcomeState[o] !== s || (pays[a] !== null && pays[a] !== outcomeReward[o])) pays[a] = NaN
        else pays[a] ??= outcomeReward[o]
    }
    const found = actions.flatMap((action, a): Found[] => {
      const pay = pays[a]
      if (pay === null || Number.isNaN(pay)) return []
      return [
        {
          where: action,
          cause: `The action ${action} always leads back to where it was taken${pay === 0 ? ', and pays nothing' : `, for ${significantNumber(pay, 6)}`}.`,
          remedy: 'Let it change something, or leave it out.',
          walk: firstStep({ model, search }, a),
        },
      ]
    })
    return verdict(found, 'Every action changes something in some state.')
  },
}

/** The shortest way to where an action can be taken, with that step. */
function firstStep({ model, search }: Pick<CheckContext, 'model' | 'search'>, action: number) {
  for (const state of search.order)
    for (let r = model.rowStart[state]; r < model.rowStart[state + 1]; r++)
      if (model.rowAction[r] === action) {
        const { start, outcomes } = walkTo(model, search, state)
        return { start, outcomes: [...outcomes, likeliestOutcome(model, r)] }
      }
  return null
}

export const sameActions: CheckRule = {
  title: 'two actions that always do the same',
  severity: 'warning',
  proves: 'No two actions are possible in the same states and do the same in all of them.',
  tellsTruth: true,
  judge({ model, document }) {
    // What every run draws anew is alike only as it is written down.
    if ((kindOf(document).drawnFor?.(document, 1, 1) ?? document) !== document) return NOTHING
    const found = alikeActions(model).map((same): Found => {
      const names = same.map((a) => model.actions[a])
      return {
        where: names[0],
        cause: `The actions ${listNames(names, 6)} are possible in the same states and do the same in all of them.`,
        remedy: 'Leave one of them, or let them differ.',
      }
    })
    return verdict(found, 'No two actions always do the same.')
  },
}

/** Actions that no state tells apart: all together at first, and parted state by state. */
function alikeActions(model: Model): number[][] {
  const possible = new Set(model.rowAction)
  let groups = [model.actions.flatMap((_, a) => (possible.has(a) ? [a] : []))]
  const rowOfAction = new Int32Array(model.actions.length).fill(-1)
  for (let s = 0; s < model.states && groups.length; s++) {
    for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++) rowOfAction[model.rowAction[r]] = r
    groups = groups.flatMap((group) => {
      const parts: number[][] = []
      for (const action of group) {
        const row = rowOfAction[action]
        const part = parts.find(([first]) => {
          const other = rowOfAction[first]
          return other < 0 || row < 0 ? other === row : sameRows(model, other, row)
        })
        if (part) part.push(action)
        else parts.push([action])
      }
      return parts.filter(({ length }) => length > 1)
    })
    for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++) rowOfAction[model.rowAction[r]] = -1
  }
  return groups
}

function sameRows(model: Model, one: number, other: number): boolean {
  const [a, b] = [outcomesOf(model, one), outcomesOf(model, other)]
  if (a.size !== b.size) return false
  for (const [key, chance] of a) if (Math.abs((b.get(key) ?? -1) - chance) > 1e-12) return false
  return true
}

/** The chance of each outcome of a row, whatever their order. */
function outcomesOf(model: Model, row: number): Map<string, number> {
  const { outcomeStart, outcomeState, outcomeReward, outcomeDiscount, outcomeProbability } = model
  const found = new Map<string, number>()
  for (let o = outcomeStart[row]; o < outcomeStart[row + 1]; o++) {
    const key = `${outcomeState[o]} ${outcomeReward[o]} ${outcomeDiscount?.[o] ?? 1}`
    found.set(key, (found.get(key) ?? 0) + outcomeProbability[o])
  }
  return found
}

export const carriedOut: CheckRule = {
  title: 'how often what is carried out differs from what was chosen',
  severity: 'fact',
  proves: 'Whether the action that was chosen is the one that is carried out.',
  judge({ model, happenings, search }) {
    if (model.rows > LOOKED_AT) return leftOut(TOO_MANY_ROWS)
    let differ = 0
    let chance = 0
    let count = 0
    let worst = { row: -1, chance: 0 }
    for (let r = 0; r < model.rows; r++) {
      if (search.steps[stateOfRow(model, r)] < 0) continue
      const other = happenings(r).reduce((sum, way) => sum + (way.instead === null ? 0 : way.probability), 0)
      count++
      chance += other
      if (other > 0) differ++
      if (other > worst.chance + 1e-12) worst = { row: r, chance: other }
    }
    if (!differ)
      return { found: [], holds: 'The action that is chosen is always the one that is carried out.' }
    const state = stateOfRow(model, worst.row)
    return {
      found: [
        {
          where: `${model.labels[state]}, ${model.actions[model.rowAction[worst.row]]}`,
          cause: `For ${formatCount(differ)} of ${formatCount(count)} pairs of state and action another action can be carried out than the one that is chosen; over all pairs with a chance of ${significantNumber((100 * chance) / count)} %. At the most it is ${significantNumber(100 * worst.chance)} %, in ${model.labels[state]} for ${model.actions[model.rowAction[worst.row]]}.`,
          states: [state],
          walk: walkTo(model, search, state),
        },
      ],
    }
  },
}

export const deterministic: CheckRule = {
  title: 'whether anything is left to chance',
  severity: 'fact',
  proves: 'Whether steps and starts are left to chance.',
  judge({ model }) {
    const chancy = model.outcomes - model.rows
    const starts = model.startState.length > 1
    return {
      found: [
        {
          where: 'chance',
          cause:
            chancy === 0
              ? `Every step is certain${starts ? `; only where an episode starts is left to chance, among ${formatCount(model.startState.length)} states` : ''}.`
              : `On average a step has ${significantNumber(model.outcomes / model.rows)} outcomes${starts ? `, and there are ${formatCount(model.startState.length)} starts` : ''}.`,
        },
      ],
    }
  },
}
