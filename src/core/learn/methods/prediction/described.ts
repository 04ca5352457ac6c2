import { pseudoCode } from '../../../explain/pseudo-code'
import { constant } from '../../schedule'
import { ENDED, type LearnMethod } from '../method'

/** What a given policy is worth. */
export const predictionMethods = {
  'td-0': {
    title: 'TD(0) prediction',
    idea: 'Follows a policy, and moves the value of each state it leaves towards the reward plus the value of the next state.',
    source: 'Sutton 1988; Sutton & Barto 2018, section 6.1',
    tableHolds: 'values',
    purpose: 'prediction',
    defaultLearningRate: constant(0.1),
    settings: ['learningRate', 'start', 'policy'],
    pseudo: pseudoCode(`
V(s) ← as chosen for every s @start
for every episode
  s ← a start
  repeat
    take an action by the policy; see reward and next state s′
    V(s) ← V(s) + rate × (reward + discount × V(s′) − V(s)) @step
    s ← s′
  ${ENDED}`),
  },
  'td-lambda': {
    title: 'TD(λ) prediction',
    idea: 'As TD(0), but what an error teaches reaches back, by fading traces, to the states visited before.',
    source: 'Sutton 1988; Sutton & Barto 2018, section 12.2',
    tableHolds: 'values',
    purpose: 'prediction',
    defaultLearningRate: constant(0.1),
    settings: ['learningRate', 'start', 'lambda', 'traces', 'policy'],
    pseudo: pseudoCode(`
V(s) ← as chosen for every s @start
for every episode
  e(s) ← 0 for every s
  repeat
    take an action by the policy; see reward and next state s′
    error ← reward + discount × V(s′) − V(s)
    e(s) ← e(s) + 1, or 1 if traces are replaced
    for every s with a trace
      V(s) ← V(s) + rate × error × e(s) @step
      e(s) ← discount × λ × e(s)
    s ← s′
  ${ENDED}`),
  },
  'monte-carlo-prediction': {
    title: 'Monte Carlo prediction',
    idea: 'Follows a policy through whole episodes, and moves the value of each state towards the return that followed it.',
    source: 'Sutton & Barto 2018, section 5.1; Singh & Sutton 1996',
    tableHolds: 'values',
    purpose: 'prediction',
    defaultLearningRate: { kind: 'visits', from: 1, slowness: 1 },
    settings: ['learningRate', 'start', 'counted', 'policy'],
    pseudo: pseudoCode(`
V(s) ← as chosen for every s @start
for every episode
  play it by the policy @step
  G ← 0
  for every step, from the last to the first
    G ← reward + discount × G
    if it was the first visit, or every visit counts
      V(s) ← V(s) + rate × (G − V(s)) @episode`),
  },
} as const satisfies Record<string, LearnMethod>
