import { knobsOf, turnKnob } from '../environment/knobs'
import type { EnvironmentDocument } from '../kinds/kinds'
import { learnMethod } from '../learn/methods/methods'
import { ProblemError } from '../problem'
import { isUsed, setting, SETTING_NAMES, type SettingName } from '../settings/settings'
import { documentFor, type Contestant } from './contestant'
import { readValues } from './value-range'
import { variable, VARIABLE_IDS, type VariableId } from './variables'

/** A setting of agents, or a knob of their environment, that is tried at many values. */
export interface SweepAxis {
  /** One of `variedIds`. */
  readonly varied: string
  /** As it is written, see `readValues`. */
  readonly values: string
}

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

/** What can be varied for some contestants, by the way it is written in `SweepAxis.varied`. */
export function variedIds(contestants: readonly Contestant[], document: EnvironmentDocument): string[] {
  const knobs = new Set(
    contestants.flatMap((each) => knobsOf(each.environment ?? document).map(({ name }) => `${KNOB}${name}`)),
  )
  return [
    ...[...VARIABLE_IDS, ...NUMBER_SETTINGS].filter((id) => contestants.some((each) => has(id, each))),
    ...knobs,
  ]
}

/** What is varied, in words. */
export function variedTitle(id: string): string {
  if (id.startsWith(KNOB)) return id.slice(KNOB.length)
  if (isVariable(id)) return variable(id).title
  return NUMBER_SETTINGS.includes(id as SettingName) ? setting(id as SettingName).label.toLowerCase() : id
}

/** What is meant by a name on the command line: the flag of a setting, or else a knob. */
export function variedByFlag(name: string): string {
  if (name === 'learning-rate') return 'rate'
  if (name === 'exploration') return 'level'
  if (name === 'initial-values') return 'start'
  return NUMBER_SETTINGS.find((each) => setting(each).flag?.name === name) ?? `${KNOB}${name}`
}

/** A contestant at one combination of values. */
export interface SweepCell {
  /** [axes] */
  readonly values: readonly number[]
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
  for (const { varied, values } of axes) {
    const list = readValues(values, variedTitle(varied))
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
  value: number,
  document: EnvironmentDocument,
): Contestant | null {
  if (id.startsWith(KNOB)) {
    const changed = {
      ...contestant,
      knobs: { ...contestant.knobs, [id.slice(KNOB.length)]: value },
    }
    return takes(changed, id.slice(KNOB.length), document) ? changed : null
  }
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

function takes(contestant: Contestant, knob: string, document: EnvironmentDocument): boolean {
  try {
    turnKnob(documentFor(document, { ...contestant, knobs: {} }), knob, contestant.knobs[knob])
    return true
  } catch (error) {
    if (error instanceof ProblemError) return false
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
