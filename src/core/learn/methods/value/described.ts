import { pseudoCode } from '../../../explain/pseudo-code'
import { constant } from '../../schedule'
import { CONTROL, CHOOSE, ENDED, type LearnMethod } from '../method'

/** Control by one-step updates of action values. */
export const valueMethods = {
  'q-learning': {
    title: 'Q-learning',
    idea: 'Moves the value of the action taken towards the reward plus the best it could do next.',
    source: 'Watkins 1989; Sutton & Barto 2018, section 6.5',
    tableHolds: 'action values',
    purpose: 'control',
    defaultLearningRate: constant(0.1),
    settings: CONTROL,
    pseudo: pseudoCode(`
Q(s, a) ← as chosen for every s and a @start
for every episode
  s ← a start
  repeat
    ${CHOOSE}
    take a; see reward and next state s′
    Q(s, a) ← Q(s, a) + rate × (reward + discount × max over b of Q(s′, b) − Q(s, a)) @step
    s ← s′
  ${ENDED}`),
  },
  sarsa: {
    title: 'SARSA',
    idea: 'Moves the value of the action taken towards the reward plus the value of the action it takes next.',
    source: 'Rummery & Niranjan 1994; Sutton & Barto 2018, section 6.4',
    tableHolds: 'action values',
    purpose: 'control',
    defaultLearningRate: constant(0.1),
    settings: CONTROL,
    pseudo: pseudoCode(`
Q(s, a) ← as chosen for every s and a @start
for every episode
  s ← a start; ${CHOOSE}
  repeat
    take a; see reward and next state s′
    a′ ← an action for s′, in the same way
    Q(s, a) ← Q(s, a) + rate × (reward + discount × Q(s′, a′) − Q(s, a)) @step
    s ← s′; a ← a′
  ${ENDED}`),
  },
  'expected-sarsa': {
    title: 'Expected SARSA',
    idea: 'Moves the value of the action taken towards the reward plus what it may expect next, exploring included.',
    source: 'van Seijen, van Hasselt, Whiteson & Wiering 2009; Sutton & Barto 2018, section 6.6',
    tableHolds: 'action values',
    purpose: 'control',
    defaultLearningRate: constant(0.1),
    settings: CONTROL,
    pseudo: pseudoCode(`
Q(s, a) ← as chosen for every s and a @start
for every episode
  s ← a start
  repeat
    ${CHOOSE}
    take a; see reward and next state s′
    expected ← Σ over b of policy(b | s′) × Q(s′, b)
    Q(s, a) ← Q(s, a) + rate × (reward + discount × expected − Q(s, a)) @step
    s ← s′
  ${ENDED}`),
  },
  'double-q-learning': {
    title: 'Double Q-learning',
    idea: 'Keeps two tables; one picks the best next action, the other says what it is worth, so that luck is not mistaken for value.',
    source: 'van Hasselt 2010; Sutton & Barto 2018, section 6.7',
    tableHolds: 'action values',
    purpose: 'control',
    defaultLearningRate: constant(0.1),
    settings: CONTROL,
    pseudo: pseudoCode(`
A(s, a), B(s, a) ← as chosen for every s and a @start
for every episode
  s ← a start
  repeat
    a ← an action for s, best by A + B, exploring now and then
    take a; see reward and next state s′
    toss a coin: X, Y ← A, B or B, A
    b ← the best action of s′ by X
    X(s, a) ← X(s, a) + rate × (reward + discount × Y(s′, b) − X(s, a)) @step
    s ← s′
  ${ENDED}`),
  },
  'bandit-values': {
    title: 'Bandit action values',
    idea: 'Moves the value of the action towards its reward alone: what comes after it does not count.',
    source: 'Sutton & Barto 2018, sections 2.4 to 2.7; Robbins 1952',
    tableHolds: 'action values',
    purpose: 'control',
    rewardsOnly: true,
    defaultLearningRate: { kind: 'visits', from: 1, slowness: 1 },
    settings: CONTROL,
    pseudo: pseudoCode(`
Q(a) ← as chosen for every a, in every context @start
repeat
  a ← an action, by Q and the way of exploring
  take a; see the reward
  Q(a) ← Q(a) + rate × (reward − Q(a)) @step`),
  },
} as const satisfies Record<string, LearnMethod>
