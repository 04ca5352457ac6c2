import { turnKnob } from '../environment/knobs'
import { significantNumber } from '../formats/number'
import type { EnvironmentDocument } from '../kinds/kinds'
import { learnMethod } from '../learn/methods/methods'
import type { LearnChoice } from '../settings/choice'
import { settingsInBrief } from '../settings/settings-in-brief'
import { numbered } from './numbered'
import { triedChoices, type VariableId, type VariableRange } from './variables'

/** An agent that learns in an environment, to be compared with others. */
export interface Contestant {
  /** A number that no other one of its list has. */
  readonly id: number
  /** Knobs of the environment that are turned for it; the others are as the environment says. */
  readonly knobs: Readonly<Record<string, number>>
  readonly choice: LearnChoice
}

/** The environment that a contestant learns in. @throws ProblemError for knobs that are gone or out of range */
export function documentFor(
  document: EnvironmentDocument,
  { knobs }: Pick<Contestant, 'knobs'>,
): EnvironmentDocument {
  return Object.entries(knobs).reduce((turned, [name, value]) => turnKnob(turned, name, value), document)
}

/** A setting that is tried at many values. */
export interface Sweep extends VariableRange {
  readonly varied: VariableId
}

/** A contestant with the setting at each value of a sweep that it takes. */
export function sweepOf(
  contestant: Contestant,
  sweep: Sweep,
): readonly { readonly value: number; readonly contestant: Contestant }[] {
  return triedChoices(contestant.choice, sweep.varied, sweep).map(({ value, choice }) => ({
    value,
    contestant: { ...contestant, choice },
  }))
}

/** Contestants by their method and what tells them from others of it; of equal ones the second is called so. */
export function contestantNames(contestants: readonly Contestant[]): string[] {
  const parts = contestants.map(({ choice }) => settingsInBrief(choice).split(' · '))
  const names = contestants.map(({ choice, knobs }, i) => {
    const like = parts.filter((_, j) => contestants[j].choice.method === choice.method)
    const own = parts[i].filter((part) => !like.every((others) => others.includes(part)))
    const turned = Object.entries(knobs).map(([name, value]) => `${name} ${significantNumber(value)}`)
    return [learnMethod(choice.method).title, ...own, ...turned].join(', ')
  })
  return numbered(names)
}
