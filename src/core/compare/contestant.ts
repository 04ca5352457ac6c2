import { turnKnob } from '../environment/knobs'
import { takeOption } from '../environment/options'
import { significantNumber } from '../formats/number'
import type { EnvironmentDocument } from '../kinds/kinds'
import { learnMethod } from '../learn/methods/methods'
import type { LearnChoice } from '../settings/choice'
import { settingsInBrief, settingsLeftOut } from '../settings/settings-in-brief'
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
  /** Options of the environment that are taken for it. */
  readonly options?: Readonly<Record<string, string>>
  /** The policy it follows in place of learning; of its choice only episodes, step limit, discount and seed count then. */
  readonly follows?: Followed
  readonly choice: LearnChoice
}

/** Documents with something changed, by what was changed: the same change is the same document, and compiled once. */
const changedDocuments = new WeakMap<EnvironmentDocument, Map<string, EnvironmentDocument>>()

/**
 * The environment that a contestant acts in.
 * @throws ProblemError for knobs and options that are gone, and values that they do not take
 */
export function documentFor(
  document: EnvironmentDocument,
  { environment = document, knobs, options = {} }: Pick<Contestant, 'knobs' | 'options' | 'environment'>,
): EnvironmentDocument {
  const [turns, taken] = [Object.entries(knobs), Object.entries(options)]
  if (turns.length + taken.length === 0) return environment
  const known = changedDocuments.get(environment) ?? new Map<string, EnvironmentDocument>()
  changedDocuments.set(environment, known)
  const key = JSON.stringify([turns, taken])
  let changed = known.get(key)
  if (!changed) {
    changed = taken.reduce((each, [name, value]) => takeOption(each, name, value), environment)
    changed = turns.reduce((each, [name, value]) => turnKnob(each, name, value), changed)
    known.set(key, changed)
  }
  return changed
}

/** Contestants by their method and what tells them from others of it; of equal ones the second is called so. */
export function contestantNames(contestants: readonly Contestant[]): string[] {
  const parts = contestants.map(({ choice }) => [
    ...settingsInBrief(choice).split(' · '),
    ...settingsLeftOut(choice),
  ])
  const names = contestants.map(({ choice, knobs, options = {}, follows, environment }, i) => {
    const like = parts.filter((_, j) => {
      const other = contestants[j]
      return !other.follows && other.choice.method === choice.method
    })
    const own = parts[i].filter((part) => !like.every((others) => others.includes(part)))
    const turned = Object.entries(knobs).map(([name, value]) => `${name} ${significantNumber(value)}`)
    const agent = follows ? [followedName(follows)] : [learnMethod(choice.method).title, ...own]
    const taken = Object.entries(options).map(([name, value]) => `${name} ${value}`)
    return [...agent, ...turned, ...taken, ...(environment ? [environment.name] : [])].join(', ')
  })
  return numbered(names)
}
