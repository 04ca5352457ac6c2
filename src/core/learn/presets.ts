import { learnMethod } from './methods/methods'
import { constant } from './schedule'
import type { LearnChoice } from '../settings/choice'

/** Settings that go together, to begin with. */
export interface LearnPreset {
  readonly title: string
  /** What it is good for, in one sentence. */
  readonly hint: string
  /** What it changes of the settings there are. */
  apply(choice: LearnChoice): Partial<LearnChoice>
}

/** Presets that make sense on any environment; those of one environment stand in its document. */
export const LEARN_PRESETS = {
  plain: {
    title: 'Plain',
    hint: 'Constant learning rate and exploration: the least to explain, and good enough for small worlds.',
    apply: ({ method }) => ({
      learningRate: learnMethod(method).defaultLearningRate,
      exploration: { way: 'epsilon-greedy', level: constant(0.1) },
      start: { kind: 'zero' },
    }),
  },
  settle: {
    title: 'Explore, then settle',
    hint: 'Tries everything at first and less and less later, with smaller and smaller steps: finds the best policy in random environments.',
    apply: ({ method, episodes }) => ({
      ...(learnMethod(method).tableHolds === 'preferences'
        ? {}
        : { learningRate: { kind: 'visits', from: 0.5, slowness: 50 } }),
      exploration: {
        way: 'epsilon-greedy',
        level: {
          kind: 'linear',
          from: 1,
          to: 0.05,
          over: Math.max(1, Math.round(episodes * 0.6)),
          per: 'episode',
        },
      },
      start: { kind: 'zero' },
    }),
  },
  optimist: {
    title: 'Optimist',
    hint: 'Never explores at random, but begins with optimistic values: whatever has not been tried looks best.',
    apply: () => ({
      exploration: { way: 'epsilon-greedy', level: constant(0) },
      start: { kind: 'constant', value: 50 },
      ties: 'random',
    }),
  },
  softmax: {
    title: 'Softmax exploration',
    hint: 'Softmax with a temperature that falls: bad actions are tried less often than nearly good ones.',
    apply: ({ episodes }) => ({
      exploration: {
        way: 'softmax',
        level: {
          kind: 'exponential',
          from: 5,
          to: 0.1,
          over: Math.max(1, Math.round(episodes * 0.6)),
          per: 'episode',
        },
      },
      start: { kind: 'zero' },
    }),
  },
} as const satisfies Record<string, LearnPreset>
