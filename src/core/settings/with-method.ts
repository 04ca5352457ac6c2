import { EXPLORATIONS } from '../learn/explore/explorations'
import { learnMethod, type LearnMethodId } from '../learn/methods/methods'
import { constant } from '../learn/schedule'
import type { LearnChoice } from './choice'

/** The same settings for another method; what it cannot do with them is as it usually begins. */
export function withMethod(choice: LearnChoice, method: LearnMethodId): LearnChoice {
  const [before, after] = [learnMethod(choice.method), learnMethod(method)]
  // Steps of preferences and of values differ too much to be carried over.
  const { learningRate } =
    before.tableHolds === after.tableHolds ? choice : { learningRate: after.defaultLearningRate }
  const { way } = choice.exploration
  const exploration =
    EXPLORATIONS[way].forBandits && !after.rewardsOnly
      ? ({ way: 'epsilon-greedy', level: constant(EXPLORATIONS['epsilon-greedy'].usual) } as const)
      : choice.exploration
  return { ...choice, method, learningRate, exploration }
}
