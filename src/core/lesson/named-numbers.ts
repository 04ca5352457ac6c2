import { formatCount, formatNumber } from '../formats/number'
import { startValue, type Model } from '../model/model'

/** What is known of what a view shows, for the numbers in its text. */
export interface ViewFacts {
  readonly model: Model
  readonly discount: number
  /** The state that is selected; null for none. */
  readonly selected: number | null
  readonly knobs: Readonly<Record<string, number>>
  /** What lies on the board: [states], [rows], [rows]; null where there is none. */
  readonly values: Float64Array | null
  readonly policy: Float64Array | null
  readonly rowValues: Float64Array | null
  /** The largest change of the last sweep; null where there is no plan. */
  readonly change: number | null
  readonly sweeps: number | null
  readonly backups: number | null
  /** Of the run; null where there is none. */
  readonly steps: number | null
  readonly episodes: number | null
  /** The mean return of its episodes so far. */
  readonly recent: number | null
  /** The exact value of the policy it has learned, from the start. */
  readonly learned: number | null
  /** The value of the optimal policy from the start. */
  readonly optimum: number | null
  /** By the name of a contestant, the mean score of its runs. */
  readonly scores: Readonly<Record<string, number>>
}

/** What a name stands for: a number, or the name of an action; null where it is not known yet. */
export type Named = number | string | null

/** One form of name that can stand in a text. */
interface Form {
  /** As it is written: words, and parts in capitals. */
  readonly form: string
  readonly says: string
  /** @param parts  what stands in place of the parts in capitals. @throws UnknownName for a part that does not exist */
  find(facts: ViewFacts, parts: readonly string[]): Named
  readonly places?: number
}

/** A name in a text that stands for nothing here. */
export class UnknownName extends Error {}

/** Places after the point, unless a form says otherwise. */
const PLACES = 2

/** Every form of name, once. The first one that fits is taken, so that longer ones stand before shorter ones. */
export const NAMED_NUMBERS: readonly Form[] = [
  {
    form: 'value of STATE',
    says: 'the value of a state on the board',
    find: ({ model, values }, [state]) => values?.[stateNamed(model, state)] ?? null,
  },
  {
    form: 'value',
    says: 'the value of the selected state',
    find: ({ values, selected }) => values?.[chosen(selected)] ?? null,
  },
  {
    form: 'action value of ACTION in STATE',
    says: 'what an action is worth in a state',
    find: ({ model, rowValues }, [action, state]) =>
      rowValues?.[rowNamed(model, stateNamed(model, state), action)] ?? null,
  },
  {
    form: 'action value of ACTION',
    says: 'what an action is worth in the selected state',
    find: ({ model, rowValues, selected }, [action]) =>
      rowValues?.[rowNamed(model, chosen(selected), action)] ?? null,
  },
  {
    form: 'chance of ACTION in STATE',
    says: 'the probability with which the policy takes an action',
    find: ({ model, policy }, [action, state]) =>
      policy?.[rowNamed(model, stateNamed(model, state), action)] ?? null,
  },
  {
    form: 'action in STATE',
    says: 'what the policy does most likely in a state',
    find: ({ model, policy }, [state]) => policy && likeliest(model, policy, stateNamed(model, state)),
  },
  {
    form: 'action',
    says: 'what the policy does most likely in the selected state',
    find: ({ model, policy, selected }) => policy && likeliest(model, policy, chosen(selected)),
  },
  {
    form: 'start value',
    says: 'the value of the start, of several the mean',
    find: ({ model, values }) => values && startValue(model, values),
  },
  {
    form: 'optimal value',
    says: 'the value of the optimal policy from the start',
    find: ({ optimum }) => optimum,
  },
  { form: 'discount', says: 'the discount', find: ({ discount }) => discount, places: 4 },
  { form: 'sweeps', says: 'sweeps of the plan so far', find: ({ sweeps }) => sweeps, places: 0 },
  { form: 'backups', says: 'backups of the plan so far', find: ({ backups }) => backups, places: 0 },
  {
    form: 'change',
    says: 'the largest change of the last sweep',
    find: ({ change }) => change,
    places: 3,
  },
  { form: 'steps', says: 'steps of the run so far', find: ({ steps }) => steps, places: 0 },
  { form: 'episodes', says: 'episodes of the run so far', find: ({ episodes }) => episodes, places: 0 },
  {
    form: 'mean return',
    says: 'the mean return of all episodes so far',
    find: ({ recent }) => recent,
  },
  {
    form: 'policy value',
    says: 'the exact value of the learned policy from the start',
    find: ({ learned }) => learned,
  },
  { form: 'states', says: 'how many states there are', find: ({ model }) => model.states, places: 0 },
  {
    form: 'knob NAME',
    says: 'what a knob is turned to',
    find: ({ knobs }, [name]) => known(knobs, name, 'knob'),
    places: 4,
  },
  {
    form: 'score of CONTESTANT',
    says: 'what a contestant of Compare reached, in the mean of its runs',
    find: ({ scores }, [name]) => (Object.keys(scores).length ? known(scores, name, 'contestant') : null),
  },
]

const PATTERNS = NAMED_NUMBERS.map(
  ({ form }) => new RegExp(`^${form.replace(/[A-Z]{2,}/g, '(.+?)').replace(/ /g, '\\s+')}$`),
)

/** A name as it stands in a text, worked out. */
export interface NamedText {
  readonly text: string
  /** Why there is no number: then the text is the name itself. */
  readonly problem: string | null
}

/** What a name in a text stands for, in words. @param name  what stands between the brackets */
export function namedText(name: string, facts: ViewFacts | null): NamedText {
  const words = name.trim()
  for (const [i, pattern] of PATTERNS.entries()) {
    const match = pattern.exec(words)
    if (!match) continue
    if (!facts) return { text: '…', problem: null }
    const { find, places = PLACES } = NAMED_NUMBERS[i]
    try {
      const found = find(facts, match.slice(1))
      if (found === null || (typeof found === 'number' && Number.isNaN(found)))
        return { text: '…', problem: null }
      if (typeof found === 'string') return { text: found, problem: null }
      return { text: places === 0 ? formatCount(found) : formatNumber(found, places), problem: null }
    } catch (error) {
      if (!(error instanceof UnknownName)) throw error
      return { text: words, problem: error.message }
    }
  }
  return { text: words, problem: `No number is called “${words}”.` }
}

/** Where a name stands in a text: between double brackets, `[[value of B2]]`. */
export const NAMED_PLACE = /\[\[([^[\]]{1,200})\]\]/g

/** A text with its numbers by name written out; those that are not known yet as …, what has no such name as it is. */
export function withNumbers(text: string, facts: ViewFacts | null): string {
  return text.replace(NAMED_PLACE, (whole, name: string) => {
    const found = namedText(name, facts)
    return found.problem ? whole : found.text
  })
}

function stateNamed({ labels }: Model, name: string): number {
  const state = labels.indexOf(name)
  if (state < 0) throw new UnknownName(`There is no state “${name}”.`)
  return state
}

function rowNamed(model: Model, state: number, action: string): number {
  for (let r = model.rowStart[state]; r < model.rowStart[state + 1]; r++)
    if (model.actions[model.rowAction[r]] === action) return r
  throw new UnknownName(`“${action}” is not possible in ${model.labels[state]}.`)
}

function likeliest(model: Model, policy: Float64Array, state: number): string {
  let best = model.rowStart[state]
  if (best === model.rowStart[state + 1])
    throw new UnknownName(`Nothing is to be done in ${model.labels[state]}.`)
  for (let r = best + 1; r < model.rowStart[state + 1]; r++) if (policy[r] > policy[best]) best = r
  return model.actions[model.rowAction[best]]
}

function chosen(selected: number | null): number {
  if (selected === null) throw new UnknownName('No state is selected in this view.')
  return selected
}

function known(numbers: Readonly<Record<string, number>>, name: string, what: string): number {
  if (!Object.hasOwn(numbers, name)) throw new UnknownName(`There is no ${what} “${name}”.`)
  return numbers[name]
}
