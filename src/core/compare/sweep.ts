import { knobsOf } from '../environment/knobs'
import { optionsOf } from '../kinds/options'
import type { EnvironmentDocument } from '../kinds/kinds'
import { learnMethod } from '../learn/methods/methods'
import { listNames, ProblemError, refuse } from '../problem'
import { isUsed, setting, SETTING_NAMES, type SettingName } from '../settings/settings'
import { documentFor, type Contestant } from './contestant'
import { readValues } from './value-range'
import { variable, VARIABLE_IDS, type VariableId } from './variables'

/** A setting of agents, or a knob or an option of their environment, that is tried at many values. */
export interface SweepAxis {
  /** One of `variedIds`. */
  readonly varied: string
  /** As it is written: see `readValues`; of an option its values, with commas between. */
  readonly values: string
}

/** A number, or the value of an option. */
export type SweepValue = number | string

/** One setting, or two that are tried in all combinations. */
export interface Sweep {
  readonly axes: readonly [SweepAxis] | readonly [SweepAxis, SweepAxis]
}

/** Combinations of a sweep at the most, of one contestant. */
export const MOST_CELLS = 2500

/** What can be varied, apart from the variables that agents have anyway: settings that are one number. */
const NUMBER_SETTINGS = SETTING_NAMES.filter(
  (name) => setting(name).type === 'number' && !['seed', 'run'].includes(name),
)
const KNOB = 'knob '
const OPTION = 'option '

/** What can be varied for some contestants, by the way it is written in `SweepAxis.varied`. */
export function variedIds(contestants: readonly Contestant[], document: EnvironmentDocument): string[] {
  const own = new Set(
    contestants.flatMap(({ environment = document }) => [
      ...knobsOf(environment).map(({ name }) => `${KNOB}${name}`),
      ...optionsOf(environment).map(({ name }) => `${OPTION}${name}`),
    ]),
  )
  return [
    ...[...VARIABLE_IDS, ...NUMBER_SETTINGS].filter((id) => contestants.some((each) => has(id, each))),
    ...own,
  ]
}

/** What is varied, in words. */
export function variedTitle(id: string): string {
  for (const prefix of [KNOB, OPTION]) if (id.startsWith(prefix)) return id.slice(prefix.length)
  if (isVariable(id)) return variable(id).title
  return NUMBER_SETTINGS.includes(id as SettingName) ? setting(id as SettingName).label.toLowerCase() : id
}

/** Whether what is varied has its values in words. */
export function isOption(id: string): boolean {
  return id.startsWith(OPTION)
}

/** The values that are tried first. */
export function firstValues(
  id: string,
  contestants: readonly Contestant[],
  document: EnvironmentDocument,
): string {
  if (!isOption(id)) return '0.1..0.9/5'
  const known = contestants.flatMap(({ environment = document }) =>
    optionsOf(environment)
      .filter(({ name }) => name === variedTitle(id))
      .flatMap(({ values }) => values),
  )
  return [...new Set(known)].join(', ')
}

/**
 * The values of an axis in their order: numbers go up, words stay as they are written.
 * @throws ProblemError for values that cannot be read
 */
export function axisValues({ varied, values }: SweepAxis): readonly SweepValue[] {
  const place = variedTitle(varied)
  if (!isOption(varied)) return readValues(values, place)
  const list = [...new Set(values.split(',').map((each) => each.trim().replace(/\s+/g, ' ')))].filter(Boolean)
  if (!list.length) refuse(place, 'No value is asked for.', 'Write its values with commas between.')
  return list
}

/**
 * @param contestants  all that the axis is for
 * @throws ProblemError for values that cannot be read, and words that are no value for any of them
 */
export function checkAxis(
  axis: SweepAxis,
  contestants: readonly Contestant[],
  document: EnvironmentDocument,
): void {
  const values = axisValues(axis)
  if (!isOption(axis.varied)) return
  const known = contestants.flatMap(({ environment = document }) =>
    optionsOf(environment).filter(({ name }) => name === variedTitle(axis.varied)),
  )
  if (!known.length) return
  const none = values.find((value) => known.every((option) => !option.taken(String(value))))
  if (none === undefined) return
  const { values: all, more } = known[0]
  refuse(
    variedTitle(axis.varied),
    `“${none}” is none of its values.`,
    `They are ${listNames(all, 20)}${more ? `; ${more}` : ''}.`,
  )
}

/**
 * What is meant by a name on the command line: the flag of a setting, the option of the environment, with strokes for
 * the spaces, or else a knob.
 */
export function variedByFlag(name: string, document?: EnvironmentDocument): string {
  if (name === 'learning-rate') return 'rate'
  if (name === 'exploration') return 'level'
  if (name === 'initial-values') return 'start'
  const flag = NUMBER_SETTINGS.find((each) => setting(each).flag?.name === name)
  if (flag) return flag
  const option = document && optionsOf(document).find((each) => each.name.replaceAll(' ', '-') === name)
  return option ? `${OPTION}${option.name}` : `${KNOB}${name}`
}

/** A contestant at one combination of values. */
export interface SweepCell {
  /** [axes] */
  readonly values: readonly SweepValue[]
  readonly contestant: Contestant
}

/**
 * A contestant at each combination of values that it takes; none where it has no such setting.
 * @throws ProblemError for values that cannot be read, and too many of them
 */
export function sweepOf(
  contestant: Contestant,
  { axes }: Sweep,
  document: EnvironmentDocument,
): readonly SweepCell[] {
  let cells: SweepCell[] = [{ values: [], contestant }]
  for (const axis of axes) {
    const { varied } = axis
    const list = axisValues(axis)
    if (cells.length * list.length > MOST_CELLS)
      throw new ProblemError([
        {
          place: variedTitle(varied),
          cause: `That makes ${cells.length * list.length} combinations.`,
          remedy: `Ask for ${MOST_CELLS} at the most.`,
        },
      ])
    cells = cells.flatMap((cell) =>
      list.flatMap((value) => {
        const changed = varyContestant(cell.contestant, varied, value, document)
        return changed ? [{ values: [...cell.values, value], contestant: changed }] : []
      }),
    )
  }
  return cells
}

/** A contestant with another value; null where it does not take it. */
function varyContestant(
  contestant: Contestant,
  id: string,
  value: SweepValue,
  document: EnvironmentDocument,
): Contestant | null {
  const name = variedTitle(id)
  if (typeof value === 'string') {
    const options = { ...contestant.options, [name]: value }
    return ifPossible({ ...contestant, options }, { knobs: {}, options: { [name]: value } }, document)
  }
  if (id.startsWith(KNOB))
    return ifPossible(
      { ...contestant, knobs: { ...contestant.knobs, [name]: value } },
      { knobs: { [name]: value }, options: contestant.options },
      document,
    )
  const { choice } = contestant
  if (!has(id, contestant)) return null
  if (isVariable(id)) {
    const varied = variable(id).with(choice, value)
    return varied && { ...contestant, choice: varied }
  }
  const entry = setting(id as SettingName)
  if (entry.type !== 'number') return null
  const { min, max, whole, aboveMin } = entry
  const fits = value <= max && (aboveMin ? value > min : value >= min) && (!whole || Number.isInteger(value))
  return fits ? { ...contestant, choice: { ...choice, [id]: value } } : null
}

/** The contestant, where its environment takes a change; what else is changed of it is judged when it runs. */
function ifPossible(
  contestant: Contestant,
  change: Pick<Contestant, 'knobs' | 'options'>,
  document: EnvironmentDocument,
): Contestant | null {
  try {
    documentFor(document, { environment: contestant.environment, ...change })
    return contestant
  } catch (error) {
    if (error instanceof ProblemError) return null
    throw error
  }
}

function has(id: string, { choice, follows }: Contestant): boolean {
  // Who does not learn still plays episodes.
  if (follows) return ['discount', 'episodes', 'cap'].includes(id)
  return isVariable(id)
    ? variable(id).has(choice)
    : isUsed(id as SettingName, learnMethod(choice.method).settings)
}

function isVariable(id: string): id is VariableId {
  return VARIABLE_IDS.includes(id as VariableId)
}
