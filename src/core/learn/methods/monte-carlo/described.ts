import { pseudoCode } from '../../../explain/pseudo-code'
import { CONTROL, type LearnMethod } from '../method'

/** Control by the returns of whole episodes. */
export const monteCarloMethods = {
  'monte-carlo-control': {
    title: 'Monte Carlo control',
    idea: 'Plays an episode to its end, then moves the value of each action taken towards the return that followed it.',
    source: 'Sutton & Barto 2018, section 5.4',
    tableHolds: 'action values',
    purpose: 'control',
    defaultLearningRate: { kind: 'visits', from: 1, slowness: 1 },
    settings: [...CONTROL, 'counted'],
    pseudo: pseudoCode(`
Q(s, a) ← as chosen for every s and a @start
for every episode
  play it, best by Q, exploring now and then @step
  G ← 0
  for every step, from the last to the first
    G ← reward + discount × G
    if it was the first visit, or every visit counts
      Q(s, a) ← Q(s, a) + rate × (G − Q(s, a)) @episode`),
  },
} as const satisfies Record<string, LearnMethod>
