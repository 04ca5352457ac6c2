import { formatCount, significantNumber } from '../formats/number'
import { learnMethod } from '../learn/methods/methods'
import { usesCritic, type LearnChoice } from './choice'
import { inBrief, isUsed, setting, SETTING_NAMES, type MethodSetting, type SettingName } from './settings'

/** The settings that matter most in one line, for where there is no room for fields. */
export function settingsInBrief(choice: LearnChoice): string {
  const { settings } = learnMethod(choice.method)
  const used = SETTING_NAMES.filter(
    (name) => settings.includes(name as MethodSetting) && (name !== 'criticRate' || usesCritic(choice)),
  )
  return [
    ...used.map((name) => inBrief(name, choice[name])),
    `${formatCount(choice.episodes)} episodes`,
    inBrief('seed', choice.seed),
  ]
    .filter(Boolean)
    .join(' · ')
}

/** The settings that such a line leaves out, each with its value: what still tells a choice from another one. */
export function settingsLeftOut(choice: LearnChoice): string[] {
  const { settings } = learnMethod(choice.method)
  return SETTING_NAMES.filter(
    (name) => name !== 'run' && name !== 'episodes' && setting(name).brief === null && isUsed(name, settings),
  ).map((name) => `${setting(name).label.toLowerCase()} ${valueInBrief(name, choice[name])}`)
}

function valueInBrief(name: SettingName, value: unknown): string {
  const entry = setting(name)
  if (entry.type === 'choice') return entry.options[value as string]
  if (entry.type === 'number') return significantNumber(value as number)
  if (entry.type === 'own') return entry.inBrief(value)
  const { kind, ...numbers } = value as { readonly kind: string }
  return [
    entry.kinds[kind].title,
    ...Object.values<number>(numbers).map((each) => significantNumber(each)),
  ].join(' ')
}

/** Whether two choices differ in nothing but the number of the run. */
export function sameButRun(one: LearnChoice, other: LearnChoice): boolean {
  return JSON.stringify({ ...one, run: 0 }) === JSON.stringify({ ...other, run: 0 })
}

/** A choice by its method and, where it is not that of another one, what is different about it. */
export function choiceBeside(choice: LearnChoice, other: LearnChoice | null): string {
  const { title } = learnMethod(choice.method)
  if (!other || sameButRun(choice, other)) return title
  const [mine, theirs] = [choice, other].map((each) => [
    ...settingsInBrief(each).split(' · '),
    ...(choice.method === other.method ? settingsLeftOut(each) : []),
  ])
  const different = mine.filter((part) => !theirs.includes(part))
  if (different.length) return `${title} (${different.join(', ')})`
  // Another method is told by its name alone.
  return choice.method === other.method ? `${title} (other settings)` : title
}
