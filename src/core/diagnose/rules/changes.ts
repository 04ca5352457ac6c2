import { significantNumber } from '../../formats/number'
import { constant, type Schedule } from '../../learn/schedule'
import { LEARN_PRESETS } from '../../learn/presets'
import type { LearnChoice } from '../../settings/choice'
import type { DiagnosisContext } from '../context'
import type { Change } from '../finding'
import { counted, percent } from '../words'

/** What suits a random world: large steps at first, small ones later. */
const FALLING: Schedule = { kind: 'visits', from: 0.5, slowness: 50 }

export function setRate(rate: number): Change {
  return {
    words: `Set the learning rate to ${significantNumber(rate)}.`,
    choice: { learningRate: constant(rate) },
  }
}

export const letRateFall: Change = {
  words: 'Let the learning rate fall with the visits of each cell, from 0.5.',
  choice: { learningRate: FALLING },
}

/** Values above anything that can be earned: then everything is tried. */
export function optimistic(context: DiagnosisContext): Change {
  const value = Math.max(
    1,
    Number((context.bestEpisodes?.value ?? returnBounds(context)[1]).toPrecision(2)) * 1.2,
  )
  return {
    words: `Begin with optimistic values of ${significantNumber(value)}: whatever was not tried looks best.`,
    choice: { start: { kind: 'constant', value } },
  }
}

/** The least and the largest return of an episode that the rewards allow. */
function returnBounds({ model, choice }: DiagnosisContext): readonly [number, number] {
  let [least, most] = [0, 0]
  for (const reward of model.outcomeReward) {
    least = Math.min(least, reward)
    most = Math.max(most, reward)
  }
  const steps = choice.discount < 1 ? Math.min(choice.cap, 1 / (1 - choice.discount)) : choice.cap
  return [least * steps, most * steps]
}

/** More episodes, schedules stretched with them. */
export function more(choice: LearnChoice, times: number): Change {
  const stretched = (schedule: Schedule): Schedule =>
    'over' in schedule && schedule.per === 'episode' ? { ...schedule, over: schedule.over * times } : schedule
  const episodes = Math.min(10_000_000, choice.episodes * times)
  return {
    words: `Let it learn for ${counted(episodes, 'episode')}.`,
    choice: {
      episodes,
      learningRate: stretched(choice.learningRate),
      exploration: { ...choice.exploration, level: stretched(choice.exploration.level) },
    },
  }
}

export function exploreAt(level: number): Change {
  return {
    words: `Let ${percent(level)} of the steps be random actions.`,
    choice: { exploration: { way: 'epsilon-greedy', level: constant(level) } },
  }
}

/** Everything at first, little in the end; the learning rate stays as it is. */
export function settle(choice: LearnChoice): Change {
  const { exploration } = LEARN_PRESETS.settle.apply(choice)
  return {
    words: 'Let exploration begin at 1 and fall to 0.05 over the first 60\u00a0% of the episodes.',
    choice: { exploration: exploration! },
  }
}

/** Exploration that falls evenly over the first 80 % of the episodes. */
export function fade({ episodes }: LearnChoice, from: number, to: number): Change {
  return {
    words: `Let exploration fall to ${significantNumber(to)} by the end of the run.`,
    choice: {
      exploration: {
        way: 'epsilon-greedy',
        level: { kind: 'linear', from, to, over: Math.max(2, Math.round(episodes * 0.8)), per: 'episode' },
      },
    },
  }
}
