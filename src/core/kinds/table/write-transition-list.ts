import { writeCsv } from '../../formats/csv'
import type { Model } from '../../model/model'
import { COLUMNS, EXTRA_COLUMNS } from './transition'

/**
 * The transition list of any compiled model; reading it back gives the same states, actions, outcomes, starts and
 * observations, by name and to the bit. Columns beyond the five are written only where they say something.
 */
export function writeTransitionList(model: Model): string {
  const extras = EXTRA_COLUMNS.filter((column) => EXTRAS[column].says(model))
  return writeCsv([...COLUMNS, ...extras], transitionRows(model, extras))
}

/** What is written in the columns that a list may have. */
const EXTRAS: {
  readonly [C in (typeof EXTRA_COLUMNS)[number]]: {
    /** Whether the list would say something else without it. */
    says(model: Model): boolean
    /** @param first  whether it is the first line of the state */
    field(model: Model, state: number, outcome: number, first: boolean): string | number
  }
} = {
  start: {
    says: ({ startState, ending }) =>
      startState.length > 1 || startState[0] !== ending.findIndex((each) => each === 0),
    field: ({ startState, startProbability }, state, _, first) => {
      const at = first ? startState.indexOf(state) : -1
      return at < 0 ? '' : startProbability[at]
    },
  },
  observation: {
    says: looksShared,
    field: ({ observation, labels }, state, _, first) =>
      first ? labels[observation.indexOf(observation[state])] : '',
  },
  discount: {
    says: ({ outcomeDiscount }) => outcomeDiscount !== null,
    field: ({ outcomeDiscount }, _, outcome) => outcomeDiscount![outcome],
  },
}

/** Whether some states in which there is something to do look alike. */
function looksShared({ observation, ending }: Model): boolean {
  const open = observation.filter((_, s) => ending[s] === 0)
  return new Set(open).size < open.length
}

function* transitionRows(
  model: Model,
  extras: readonly (typeof EXTRA_COLUMNS)[number][],
): Generator<(string | number)[]> {
  for (let s = 0; s < model.states; s++) {
    let first = true
    for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
      for (let o = model.outcomeStart[r]; o < model.outcomeStart[r + 1]; o++) {
        yield [
          model.labels[s],
          model.actions[model.rowAction[r]],
          model.labels[model.outcomeState[o]],
          model.outcomeProbability[o],
          model.outcomeReward[o],
          ...extras.map((column) => EXTRAS[column].field(model, s, o, first)),
        ]
        first = false
      }
  }
}
