import { turnKnob } from '../environment/knobs'
import { significantNumber } from '../formats/number'
import type { EnvironmentDocument } from '../kinds/kinds'
import { learnMethod } from '../learn/methods/methods'
import type { LearnChoice } from '../settings/choice'
import { settingsInBrief } from '../settings/settings-in-brief'
import { followedName, type Followed } from './followed'
import { numbered } from './numbered'

/** An agent in an environment, to be compared with others. */
export interface Contestant {
  /** A number that no other one of its list has. */
  readonly id: number
  /** The environment, where it is another one than that of the comparison: a copy of its own. */
  readonly environment?: EnvironmentDocument
  /** Knobs of the environment that are turned for it; the others are as the environment says. */
  readonly knobs: Readonly<Record<string, number>>
  /** The policy it follows in place of learning; of its choice only episodes, step limit, discount and seed count then. */
  readonly follows?: Followed
  readonly choice: LearnChoice
}

/** Documents with knobs turned, by what was turned: the same turn is the same document, and compiled once. */
const turnedDocuments = new WeakMap<EnvironmentDocument, Map<string, EnvironmentDocument>>()

/** The environment that a contestant acts in. @throws ProblemError for knobs that are gone or out of range */
export function documentFor(
  document: EnvironmentDocument,
  { environment = document, knobs }: Pick<Contestant, 'knobs' | 'environment'>,
): EnvironmentDocument {
  const turns = Object.entries(knobs)
  if (turns.length === 0) return environment
  const known = turnedDocuments.get(environment) ?? new Map<string, EnvironmentDocument>()
  turnedDocuments.set(environment, known)
  const key = JSON.stringify(turns)
  const turned =
    known.get(key) ?? turns.reduce((each, [name, value]) => turnKnob(each, name, value), environment)
  known.set(key, turned)
  return turned
}

/** Contestants by their method and what tells them from others of it; of equal ones the second is called so. */
export function contestantNames(contestants: readonly Contestant[]): string[] {
  const parts = contestants.map(({ choice }) => settingsInBrief(choice).split(' · '))
  const names = contestants.map(({ choice, knobs, follows, environment }, i) => {
    const like = parts.filter((_, j) => {
      const other = contestants[j]
      return !other.follows && other.choice.method === choice.method
    })
    const own = parts[i].filter((part) => !like.every((others) => others.includes(part)))
    const turned = Object.entries(knobs).map(([name, value]) => `${name} ${significantNumber(value)}`)
    const agent = follows ? [followedName(follows)] : [learnMethod(choice.method).title, ...own]
    return [...agent, ...turned, ...(environment ? [environment.name] : [])].join(', ')
  })
  return numbered(names)
}
