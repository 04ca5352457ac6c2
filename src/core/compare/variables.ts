import { EXPLORATIONS } from '../learn/explore/explorations'
import { learnMethod } from '../learn/methods/methods'
import { constant } from '../learn/schedule'
import type { LearnChoice } from '../settings/choice'

/** A number of an agent's settings that can be tried at many values. */
interface Variable {
  readonly title: string
  /** What it is called for an agent. */
  name(choice: LearnChoice): string
  /** Whether the agent has it. */
  has(choice: LearnChoice): boolean
  value(choice: LearnChoice): number
  /** The same agent with another value; null where the setting does not take it. */
  with(choice: LearnChoice, value: number): LearnChoice | null
}

export const VARIABLES = {
  level: {
    title: 'exploration',
    name: ({ exploration }) => EXPLORATIONS[exploration.way].level.toLowerCase(),
    has: ({ method }) => learnMethod(method).settings.includes('exploration'),
    value: ({ exploration }) => exploration.level.from,
    with: (choice, value) => {
      const { way } = choice.exploration
      const { min, max, aboveMin } = EXPLORATIONS[way].range
      return value < min || value > max || (aboveMin && value === min)
        ? null
        : { ...choice, exploration: { way, level: constant(value) } }
    },
  },
  rate: {
    title: 'learning rate',
    name: () => 'learning rate',
    has: ({ method }) => learnMethod(method).settings.includes('learningRate'),
    value: ({ learningRate }) => learningRate.from,
    with: (choice, value) => {
      // Values move past their targets with rates above 1; preferences have no such end.
      const limit = learnMethod(choice.method).tableHolds === 'preferences' ? Infinity : 1
      return value > 0 && value <= limit ? { ...choice, learningRate: constant(value) } : null
    },
  },
  start: {
    title: 'initial values',
    name: () => 'initial values',
    has: ({ method }) => learnMethod(method).settings.includes('start'),
    value: ({ start }) => (start.kind === 'constant' ? start.value : 0),
    with: (choice, value) => ({ ...choice, start: { kind: 'constant', value } }),
  },
} as const satisfies Readonly<Record<string, Variable>>
export type VariableId = keyof typeof VARIABLES
export const VARIABLE_IDS = Object.keys(VARIABLES) as VariableId[]

export function variable(id: VariableId): Variable {
  return VARIABLES[id]
}

/** `from`, and on by a factor of 2 up to `to`. */
export function doublings(from: number, to: number): number[] {
  const values: number[] = []
  for (let value = from; value <= to * (1 + 1e-9); value *= 2) values.push(value)
  return values
}

/** From where to where a setting is tried, by doubling. */
export interface VariableRange {
  readonly from: number
  readonly to: number
}

/** A choice with a setting at each value of a range that it takes; none where it has no such setting. */
export function triedChoices(
  choice: LearnChoice,
  varied: VariableId,
  { from, to }: VariableRange,
): readonly { readonly value: number; readonly choice: LearnChoice }[] {
  const setting = variable(varied)
  if (!setting.has(choice)) return []
  return doublings(from, to).flatMap((value) => {
    const changed = setting.with(choice, value)
    return changed ? [{ value, choice: changed }] : []
  })
}
