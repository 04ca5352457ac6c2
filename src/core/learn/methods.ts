import { Reinforce } from '../search/reinforce'
import type { Learner, LearnSettings } from './learner'
import { TemporalDifference } from './temporal-difference'
import type { World } from './world'

/** A learning method, described once for the interface, the command line and the docs. */
export interface LearnMethod {
  readonly title: string
  /** What it does, in one sentence. */
  readonly idea: string
  readonly source: string
  /** What the numbers of its table are. */
  readonly tableHolds: 'action values' | 'preferences'
  readonly defaultLearningRate: number
  /** Whether `exploration` means anything to it. */
  readonly explores: boolean
  create(world: World, settings: LearnSettings): Learner
}

export const LEARN_METHODS = {
  'q-learning': {
    title: 'Q-learning',
    idea: 'Moves the value of the action taken towards the reward plus the best it could do next.',
    source: 'Watkins 1989; Sutton & Barto 2018, section 6.5',
    tableHolds: 'action values',
    defaultLearningRate: 0.1,
    explores: true,
    create: (world, settings) => new TemporalDifference(world, settings, false),
  },
  sarsa: {
    title: 'SARSA',
    idea: 'Moves the value of the action taken towards the reward plus the value of the action it takes next.',
    source: 'Rummery & Niranjan 1994; Sutton & Barto 2018, section 6.4',
    tableHolds: 'action values',
    defaultLearningRate: 0.1,
    explores: true,
    create: (world, settings) => new TemporalDifference(world, settings, true),
  },
  reinforce: {
    title: 'REINFORCE',
    idea: 'After an episode, makes each action taken more likely in proportion to the return that followed it.',
    source: 'Williams 1992; Sutton & Barto 2018, section 13.3',
    tableHolds: 'preferences',
    defaultLearningRate: 0.005,
    explores: false,
    create: (world, settings) => new Reinforce(world, settings),
  },
} as const satisfies Record<string, LearnMethod>

export type LearnMethodId = keyof typeof LEARN_METHODS
export const LEARN_METHOD_IDS = Object.keys(LEARN_METHODS) as LearnMethodId[]

export const LEARN_DEFAULTS = { exploration: 0.1, episodes: 2000, cap: 200, seed: 1 } as const

/** The cap a run gets when neither the person nor the environment names one: learning needs some. */
export function capFor(environmentCap: number): number {
  return environmentCap || 1000
}
