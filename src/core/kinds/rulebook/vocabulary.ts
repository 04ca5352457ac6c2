import { DISTRIBUTIONS } from './distributions'
import { FUNCTIONS } from './functions'
import type { Rule } from './syntax'

/** What a word of the language means, for the editor and the documentation. */
export interface Entry {
  readonly form: string
  readonly says: string
}

/** The rules, each once. */
export const RULES: { readonly [T in Rule['type']]: Entry } = {
  knob: {
    form: 'knob seats = 12 from 4 to 40',
    says: 'A number to be turned with a slider. “by 2” sets its step.',
  },
  table: {
    form: 'table visitors from 9 = 3, 5, 8',
    says: 'Constants by place, here visitors[9] to visitors[11]; without “from” the first place is 1. “table cost for new = 1, worn = 4” is read by words: cost[new]. Lists make rows: “table way for hall = [1, 2], attic = [3, 4]” gives way[hall][2].',
  },
  state: {
    form: 'state left from 0 to seats',
    says: 'Something a state is made of: whole numbers; “in low, high” words or numbers; “yes or no”; “from 30 to 70 in 20 buckets” a real number; “list of 3 from 0 to 5” a short list.',
  },
  start: {
    form: 'start left = seats',
    says: 'Where an episode starts. Several lines are several starts, with “weight 2” likelier ones; “left ~ uniform(1, 5)” draws; “then 3 random actions” scrambles.',
  },
  action: {
    form: 'action price in 8, 12, 18 when left > 0',
    says: 'Something to decide. With numbers there is one action a level, and its name stands for the number; “from 0 to 500 in 11 levels” thins them out. “with van from 1 to 3, to in hall, attic” gives it parts: one action for each combination. “when” says where it is possible.',
  },
  chance: {
    form: 'chance callers ~ poisson(4) up to 12',
    says: 'What falls by chance in a step. “list of 3 ~ coin(risk[item])” draws one after the other. “~ table calls[part]” takes the chances from a list.',
  },
  let: {
    form: 'let sold = min(callers, left)',
    says: 'A name for something computed, to be used below. “let cost(n) = 4 * n + 2” declares a function: cost(left).',
  },
  reward: {
    form: 'reward sold * price',
    says: 'What a step pays. Several lines add up; “when” makes one conditional.',
  },
  discount: {
    form: 'discount exp(-0.01 * minutes)',
    says: 'What follows the step counts times this, besides the discount of the environment: 0 to 1, by what happened. Several lines multiply.',
  },
  next: {
    form: 'next left = left - sold',
    says: 'What a variable will be after the step. Of several lines with “when” the first that holds counts; otherwise it stays as it is. “next at[van] = to” is of one item.',
  },
  end: {
    form: 'end when left = 0 "sold out"',
    says: '“end when” makes endings of the states in which it holds; “end after” ends the episode with a step.',
  },
  measure: {
    form: 'measure turned_away = callers - sold',
    says: 'Something counted beside the reward; no method looks at it.',
  },
  check: {
    form: 'check "never oversell": sold <= left',
    says: 'Something that must hold in every step of every reachable state. If not, the shortest way to a breach is shown.',
  },
  policy: {
    form: 'policy "hold back": price 18 when left > 6, price 12',
    says: 'A policy written by hand: the first choice whose “when” holds and that is possible.',
  },
  observe: {
    form: 'observe floor, open as door',
    says: 'All that the agent sees. States that look the same share a row of its table; planning still sees all.',
  },
  same: {
    form: 'same at, load',
    says: 'The items of these lists may be exchanged, as vans that are all alike: states that differ in their order alone are one.',
  },
  pass: {
    form: 'pass when queue = 0',
    says: 'In these states nothing is decided: time goes on by itself, and the rewards are added to the decision before. “discounted 0.99” discounts them on the way.',
  },
  impossible: {
    form: 'impossible actions are forbidden',
    says: 'Or “clamped”: they act as the nearest possible one. Or “penalised by 5”: they are allowed, values that leave their range stop at its end, and 5 is subtracted from the reward.',
  },
}

/** `pick` has a form of its own: it names its values. */
export const PICK: Entry = {
  form: 'pick(dry: 0.3, damp: 0.5, wet: rest)',
  says: 'one of the named values, each with its chance; “rest” takes what is left',
}

/** So does `sample`. */
export const SAMPLE: Entry = {
  form: 'sample(3: 12, 4: 20, 7: 1)',
  says: 'values that were counted, each as likely as its share of all counts; sample(3, 4, 4) lists them as they came',
}

/** Everything that is called with ( ). */
export const CALLS: Readonly<Record<string, Entry & { readonly kind: 'function' | 'distribution' }>> = {
  ...Object.fromEntries(
    Object.entries(FUNCTIONS).map(([name, { form, says }]) => [name, { form, says, kind: 'function' }]),
  ),
  ...Object.fromEntries(
    Object.entries(DISTRIBUTIONS).map(([name, { form, says }]) => [
      name,
      { form, says, kind: 'distribution' },
    ]),
  ),
  pick: { ...PICK, kind: 'distribution' },
  sample: { ...SAMPLE, kind: 'distribution' },
}
