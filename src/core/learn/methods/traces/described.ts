import { pseudoCode } from '../../../explain/pseudo-code'
import { constant } from '../../schedule'
import { CONTROL, ENDED, type LearnMethod } from '../method'

/** Control by n-step returns and eligibility traces. */
export const traceMethods = {
  'n-step-sarsa': {
    title: 'n-step SARSA',
    idea: 'Waits for n rewards, then moves the value of the action before them towards their sum plus the value of what comes after.',
    source: 'Sutton & Barto 2018, section 7.2',
    tableHolds: 'action values',
    purpose: 'control',
    defaultLearningRate: constant(0.1),
    settings: [...CONTROL, 'lookahead'],
    pseudo: pseudoCode(`
Q(s, a) ← as chosen for every s and a @start
for every episode
  repeat, step t
    take the action chosen; choose the next one, best by Q, exploring now and then
    if n rewards have come in since step t − n + 1
      G ← those rewards, discounted, + discountⁿ × Q(now, next action)
      Q(s, a) of that step ← Q(s, a) + rate × (G − Q(s, a)) @step
  ${ENDED}
  the steps still waiting get the rewards there were @episode`),
  },
  'sarsa-lambda': {
    title: 'SARSA(λ)',
    idea: 'As SARSA, but what an error teaches reaches back, by fading traces, to the actions taken before.',
    source: 'Rummery & Niranjan 1994; Singh & Sutton 1996; Sutton & Barto 2018, section 12.7',
    tableHolds: 'action values',
    purpose: 'control',
    defaultLearningRate: constant(0.1),
    settings: [...CONTROL, 'lambda', 'traces'],
    pseudo: pseudoCode(`
Q(s, a) ← as chosen for every s and a @start
for every episode
  e(s, a) ← 0 for every s and a
  repeat
    take a; see reward and s′; a′ ← an action for s′
    error ← reward + discount × Q(s′, a′) − Q(s, a)
    e(s, a) ← e(s, a) + 1, or 1 if traces are replaced
    for every s and a with a trace
      Q(s, a) ← Q(s, a) + rate × error × e(s, a) @step
      e(s, a) ← discount × λ × e(s, a)
    s ← s′; a ← a′
  ${ENDED}`),
  },
  'q-lambda': {
    title: 'Watkins’s Q(λ)',
    idea: 'As Q-learning with fading traces, which end whenever an action is taken that is not a best one.',
    source: 'Watkins 1989; Sutton & Barto 2018, section 12.10',
    tableHolds: 'action values',
    purpose: 'control',
    defaultLearningRate: constant(0.1),
    settings: [...CONTROL, 'lambda', 'traces'],
    pseudo: pseudoCode(`
Q(s, a) ← as chosen for every s and a @start
for every episode
  e(s, a) ← 0 for every s and a
  repeat
    take a; see reward and s′; a′ ← an action for s′
    error ← reward + discount × max over b of Q(s′, b) − Q(s, a)
    e(s, a) ← e(s, a) + 1, or 1 if traces are replaced
    for every s and a with a trace
      Q(s, a) ← Q(s, a) + rate × error × e(s, a) @step
      e(s, a) ← discount × λ × e(s, a), or 0 if a′ is not a best action
    s ← s′; a ← a′
  ${ENDED}`),
  },
} as const satisfies Record<string, LearnMethod>
