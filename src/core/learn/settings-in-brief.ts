import { formatCount, significantNumber } from '../formats/number'
import { learnMethod } from './methods'
import type { Schedule } from './schedule'
import type { LearnChoice } from './settings-schema'

/** The settings that matter most in one line, for where there is no room for fields. */
export function settingsInBrief(choice: LearnChoice): string {
  const { settings } = learnMethod(choice.method)
  const { exploration } = choice
  return [
    settings.includes('learningRate') ? `rate ${briefly(choice.learningRate)}` : '',
    settings.includes('exploration')
      ? `${exploration.way === 'softmax' ? 'temperature' : 'ε'} ${briefly(exploration.level)}`
      : '',
    settings.includes('lookahead') ? `n ${choice.lookahead}` : '',
    settings.includes('lambda') ? `λ ${significantNumber(choice.lambda)}` : '',
    `${formatCount(choice.episodes)} episodes`,
    `seed ${choice.seed}`,
  ]
    .filter(Boolean)
    .join(' · ')
}

function briefly(schedule: Schedule): string {
  if (schedule.kind === 'visits') return schedule.slowness === 1 ? '1/n' : 'by visits'
  return 'to' in schedule && schedule.to !== schedule.from
    ? `${significantNumber(schedule.from)} → ${significantNumber(schedule.to)}`
    : significantNumber(schedule.from)
}
