import { flagSchema } from '../core/settings/schemas'
import Joi from 'joi'
import { Option, type Command } from 'commander'
import { ProblemError } from '../core/problem'
import { fromFlag } from '../core/settings/setting'
import { setting, SETTING_NAMES, type LearnSettings, type SettingName } from '../core/settings/settings'

const whole = (least: number, most: number) => Joi.number().integer().min(least).max(most)

/** Options that are no settings of learning. */
export const optionSchemas = {
  tolerance: Joi.number().greater(0).max(1e6),
  horizon: whole(1, 1_000_000),
  runs: whole(1, 10_000),
} as const

/** The settings that can be given by a flag. */
export const FLAGGED = SETTING_NAMES.filter((name) => setting(name).flag !== null)

/** Adds the flags of some settings to a command. */
export function addFlags(command: Command, names: readonly SettingName[]): Command {
  for (const name of names) {
    const entry = setting(name)
    const { name: flag, argument, help } = entry.flag!
    const option = new Option(`--${flag} ${argument}`, help)
    command.addOption(entry.type === 'choice' ? option.choices(Object.keys(entry.options)) : option)
  }
  return command
}

/** What the flags of some settings say, of those that are given. @throws UsageError naming the flag */
export function readFlags<N extends SettingName>(
  options: Readonly<Record<string, unknown>>,
  names: readonly N[],
): Partial<Pick<LearnSettings, N>> {
  const said: Partial<Record<SettingName, unknown>> = {}
  for (const name of names) {
    const entry = setting(name)
    const value = readOption(entry.flag!.name, options[camelCase(entry.flag!.name)], flagSchema(name))
    if (value !== undefined) said[name] = fromFlag(entry, value)
  }
  return said as Partial<Pick<LearnSettings, N>>
}

/** A flag as the reader of the command line calls it. */
function camelCase(flag: string): string {
  return flag.replace(/-(.)/g, (_, letter: string) => letter.toUpperCase())
}

/** Checks one option; undefined stays undefined. @throws ProblemError naming the option */
export function readOption<T extends string | number>(
  name: string,
  value: unknown,
  schema: Joi.Schema,
): T | undefined {
  if (value === undefined) return undefined
  const { error, value: checked } = schema.validate(value)
  if (error)
    throw new UsageError([
      {
        place: `--${name}`,
        cause: `"${String(value).slice(0, 60)}" does not fit: ${error.details[0].message.replace('"value"', 'it')}.`,
        remedy: `See \`pawn --help\`.`,
      },
    ])
  return checked as T
}

/** Wrong use of the command line, as against a wrong file: exit code 2. */
export class UsageError extends ProblemError {}
