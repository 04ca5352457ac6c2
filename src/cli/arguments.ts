import { numberSchema } from '../core/settings/number-schema'
import type { LearnSettings } from '../core/settings/settings'
import { flagSchema } from '../core/settings/schemas'
import Joi from 'joi'
import { Option, type Command } from 'commander'
import { EXPLORATIONS, type ExplorationWay } from '../core/learn/explore/explorations'
import type { LearnMethod } from '../core/learn/methods/method'
import { constant } from '../core/learn/schedule'
import { ProblemError } from '../core/problem'
import { fromFlag, type Setting, type ValueOf } from '../core/settings/setting'

/** How many runs. */
export const RUNS_SCHEMA = Joi.number().integer().min(1).max(10_000)

/** Settings by name, as they stand in their lists. */
type Entries = Readonly<Record<string, Setting>>

/** Those of some settings that can be given by a flag. */
export function flagged<E extends Entries>(entries: E): Partial<E> {
  return Object.fromEntries(
    Object.entries(entries).filter(([, { flag }]) => flag !== null),
  ) as unknown as Partial<E>
}

/** Adds the flags of some settings to a command. */
export function addFlags(command: Command, entries: Entries): Command {
  for (const entry of Object.values(entries)) {
    const { name, argument, help } = entry.flag!
    const option = new Option(`--${name} ${argument}`, help)
    command.addOption(entry.type === 'choice' ? option.choices(Object.keys(entry.options)) : option)
  }
  return command
}

/** What the flags of some settings say, of those that are given. @throws UsageError naming the flag */
export function readFlags<E extends Entries>(
  options: Readonly<Record<string, unknown>>,
  entries: E,
): { [N in keyof E]?: ValueOf<E[N]> } {
  const said: Record<string, unknown> = {}
  for (const [name, entry] of Object.entries(entries)) {
    const value = readOption(entry.flag!.name, options[camelCase(entry.flag!.name)], flagSchema(entry))
    if (value !== undefined) said[name] = fromFlag(entry, value)
  }
  return said as { [N in keyof E]?: ValueOf<E[N]> }
}

/** How an agent explores, by the flags of the way and of its number. @throws UsageError naming the flag */
export function explorationFlags(
  { explore, exploration }: Readonly<Record<string, unknown>>,
  method: LearnMethod,
): Pick<Partial<LearnSettings>, 'exploration'> {
  if (explore === undefined && exploration === undefined) return {}
  const way = (explore ?? 'epsilon-greedy') as ExplorationWay
  const { range, usual, forBandits } = EXPLORATIONS[way]
  const wrong = (cause: string, remedy: string) => new UsageError([{ place: '--explore', cause, remedy }])
  if (explore !== undefined && !method.settings.includes('exploration'))
    throw wrong(`${method.title} has no use for it.`, 'Leave it out.')
  if (forBandits && !method.rewardsOnly)
    throw wrong(
      `${way} goes by rewards alone, and ${method.title} learns from what comes after them too.`,
      'Use it with the method bandit-values.',
    )
  const level = readOption<number>('exploration', exploration, numberSchema(range)) ?? usual
  return { exploration: { way, level: constant(level) } }
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
