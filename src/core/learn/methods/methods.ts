import type { Purpose } from '../../purpose'
import { pseudoCode, type PseudoLine } from '../../explain/pseudo-code'
import type { Learner, TableHolds } from '../learner'
import { constant, type Schedule } from '../schedule'
import type { MethodSetting } from '../../settings/settings'

/** A learning method, described once for the interface, the command line and the docs. What learns is in `learners.ts`. */
export interface LearnMethod {
  readonly title: string
  /** What it does, in one sentence. */
  readonly idea: string
  readonly source: string
  /** What the numbers of its table are. */
  readonly tableHolds: TableHolds
  /** Whether it learns values of states beside its preferences; they then stand on the board. */
  readonly critic?: boolean
  /** Whether it works from the model, so that the agent takes no steps. */
  readonly fromModel?: boolean
  /** Whether it learns from rewards alone: then it may also explore by them. */
  readonly rewardsOnly?: boolean
  /** Whether it looks for the best policy, or for what a given one is worth. */
  readonly purpose: Purpose
  readonly defaultLearningRate: Schedule
  /** What can be set for it besides discount, episodes, cap, seed and stop rule. */
  readonly settings: readonly MethodSetting[]
  /** Lines are lit by `start`, `step` (something was learned from a step) and `episode` (from a whole one). */
  readonly pseudo: readonly PseudoLine[]
}

const CONTROL = ['learningRate', 'exploration', 'ties', 'start'] as const
const GRADIENT = ['learningRate', 'start', 'temperature', 'stepRule', 'normLimit', 'entropy'] as const
const CHOOSE = 'a ← an action for s, best by Q, exploring now and then'
const ENDED = 'until s is an ending or the step limit is reached'

/** Every method of learning, once. */
export const LEARN_METHODS = {
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
  'dyna-q': {
    title: 'Dyna-Q',
    idea: 'Q-learning that remembers what it saw and, after each step, learns again from things it remembers.',
    source: 'Sutton 1990; Sutton & Barto 2018, section 8.2',
    tableHolds: 'action values',
    purpose: 'control',
    defaultLearningRate: constant(0.1),
    settings: [...CONTROL, 'planning'],
    pseudo: pseudoCode(`
Q(s, a) ← as chosen for every s and a; memory ← empty @start
for every episode
  repeat
    ${CHOOSE}
    take a; see reward and next state s′
    Q(s, a) ← Q(s, a) + rate × (reward + discount × max over b of Q(s′, b) − Q(s, a)) @step
    remember that a in s led to reward and s′
    a number of times
      pick an s and a from memory, and what they led to
      Q(s, a) ← as above
  ${ENDED}`),
  },
  'prioritised-sweeping': {
    title: 'Prioritised sweeping',
    idea: 'Remembers what it saw and, after each step, backs up the actions whose values are furthest off by what it remembers.',
    source: 'Moore & Atkeson 1993; Peng & Williams 1993; Sutton & Barto 2018, section 8.4',
    tableHolds: 'action values',
    purpose: 'control',
    defaultLearningRate: constant(1),
    settings: ['exploration', 'ties', 'start', 'planning', 'threshold'],
    pseudo: pseudoCode(`
Q(s, a) ← as chosen for every s and a; memory, queue ← empty @start
for every episode
  repeat
    ${CHOOSE}
    take a; remember what it led to; put s, a into the queue by their difference
    a number of times, while the largest difference exceeds the threshold
      s, a ← the first of the queue
      Q(s, a) ← mean reward + discount × mean of max Q(s′, ·), as remembered @step
      for every action remembered to lead to s
        put it into the queue by its difference
  ${ENDED}`),
  },
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
  reinforce: {
    title: 'REINFORCE',
    idea: 'After an episode, makes each action taken more likely in proportion to the return that followed it, less a baseline.',
    source: 'Williams 1992; Sutton & Barto 2018, sections 13.3 and 13.4',
    tableHolds: 'preferences',
    purpose: 'control',
    defaultLearningRate: constant(0.005),
    settings: [...GRADIENT, 'weighting', 'baseline', 'criticRate'],
    pseudo: pseudoCode(`
preference(s, a) ← as chosen for every s and a @start
for every episode
  play it by the softmax of the preferences @step
  for every step t, with G the return from there
    for every action b of s
      preference(s, b) ← preference(s, b) + rate × discountᵗ × (G − baseline) × ((1 if b was taken, else 0) − policy(b | s)) @episode`),
  },
  'gradient-bandit': {
    title: 'Gradient bandit',
    idea: 'After every pull makes the arm more likely if it paid more than the baseline, and less likely if it paid less.',
    source: 'Sutton & Barto 2018, section 2.8',
    tableHolds: 'preferences',
    purpose: 'control',
    defaultLearningRate: constant(0.1),
    settings: [...GRADIENT, 'baseline', 'criticRate'],
    pseudo: pseudoCode(`
preference(a) ← as chosen for every a, in every context @start
repeat
  a ← an action by the softmax of the preferences
  take a; see the reward
  for every action b
    preference(b) ← preference(b) + rate × (reward − baseline) × ((1 if b was taken, else 0) − policy(b)) @step`),
  },
  'actor-critic': {
    title: 'Actor-critic (one step)',
    idea: 'After every step a critic compares the reward and its value of the next state with its value of this one; the error moves both the value and the preferences.',
    source: 'Barto, Sutton & Anderson 1983; Sutton & Barto 2018, section 13.5',
    tableHolds: 'preferences',
    critic: true,
    purpose: 'control',
    defaultLearningRate: constant(0.02),
    settings: [...GRADIENT, 'criticRate', 'weighting'],
    pseudo: pseudoCode(`
preference(s, a), V(s) ← as chosen, and 0 @start
for every episode
  repeat, step t
    a ← an action for s by the softmax of its preferences
    take a; see reward and next state s′
    error ← reward + discount × V(s′) − V(s)
    V(s) ← V(s) + critic’s rate × error
    for every action b of s
      preference(s, b) ← preference(s, b) + rate × discountᵗ × error × ((1 if b was taken, else 0) − policy(b | s)) @step
    s ← s′
  ${ENDED}`),
  },
  'actor-critic-lambda': {
    title: 'Actor-critic (traces)',
    idea: 'As actor-critic, but what an error teaches reaches back, by fading traces, to the steps before.',
    source: 'Barto, Sutton & Anderson 1983; Sutton & Barto 2018, section 13.5',
    tableHolds: 'preferences',
    critic: true,
    purpose: 'control',
    defaultLearningRate: constant(0.02),
    settings: [...GRADIENT, 'criticRate', 'weighting', 'lambda', 'traces'],
    pseudo: pseudoCode(`
preference(s, a), V(s) ← as chosen, and 0 @start
for every episode
  traces x(s, a), z(s) ← 0
  repeat, step t
    a ← an action for s by the softmax of its preferences
    take a; see reward and next state s′
    error ← reward + discount × V(s′) − V(s)
    z(s) ← z(s) + 1; x(s, b) ← x(s, b) + discountᵗ × ((1 if b was taken, else 0) − policy(b | s))
    every V ← V + critic’s rate × error × z; every preference ← preference + rate × error × x @step
    every trace ← discount × λ × trace
    s ← s′
  ${ENDED}`),
  },
  'generalised-advantage': {
    title: 'Actor-critic (advantage over n steps)',
    idea: 'Waits for n steps, then judges each of them by the critic’s errors from there on, fading by discount × λ.',
    source: 'Schulman, Moritz, Levine, Jordan & Abbeel 2016; Mnih et al. 2016',
    tableHolds: 'preferences',
    critic: true,
    purpose: 'control',
    defaultLearningRate: constant(0.02),
    settings: [...GRADIENT, 'criticRate', 'weighting', 'lookahead', 'lambda'],
    pseudo: pseudoCode(`
preference(s, a), V(s) ← as chosen, and 0 @start
for every episode
  repeat
    take n steps by the softmax of the preferences, or as many as there are
    A ← 0
    for each of them, from the last to the first
      error ← reward + discount × V(next) − V(s)
      A ← error + discount × λ × A
    for each of them, step t with its A
      V(s) ← V(s) + critic’s rate × (A + V as it was − V(s))
      preference(s, b) ← preference(s, b) + rate × discountᵗ × A × ((1 if b was taken, else 0) − policy(b | s)) @step
  ${ENDED}; the last steps are fewer @episode`),
  },
  'natural-actor-critic': {
    title: 'Natural actor-critic',
    idea: 'Learns an advantage of each action from the critic’s errors; these are the natural gradient, and move the preferences after every episode.',
    source: 'Kakade 2001; Bhatnagar, Sutton, Ghavamzadeh & Lee 2009',
    tableHolds: 'preferences',
    critic: true,
    purpose: 'control',
    defaultLearningRate: constant(0.02),
    settings: ['learningRate', 'start', 'temperature', 'stepRule', 'criticRate'],
    pseudo: pseudoCode(`
preference(s, a), V(s), w(s, a) ← as chosen, 0 and 0 @start
for every episode
  repeat
    a ← an action for s by the softmax of its preferences
    take a; see reward and next state s′
    error ← reward + discount × V(s′) − V(s)
    V(s) ← V(s) + critic’s rate × error
    known ← w(s, a) − Σ over b of policy(b | s) × w(s, b)
    w(s, b) ← w(s, b) + critic’s rate × (error − known) × ((1 if b was taken, else 0) − policy(b | s)) @step
    s ← s′
  ${ENDED}
  every preference ← preference + rate × w @episode`),
  },
  'exact-ascent': {
    title: 'Exact policy gradient',
    idea: 'Follows the exact gradient of the value at the start, worked out from the model: what the others estimate from episodes.',
    source: 'Sutton, McAllester, Singh & Mansour 2000; Kakade 2001; Sutton & Barto 2018, section 13.2',
    tableHolds: 'preferences',
    purpose: 'control',
    fromModel: true,
    defaultLearningRate: constant(0.1),
    settings: [...GRADIENT, 'direction'],
    pseudo: pseudoCode(`
preference(s, a) ← as chosen for every s and a @start
repeat
  V, Q ← the exact values of the softmax policy
  met(s) ← how often s is met in an episode, later visits discounted
  for every s and every action a of s
    gradient(s, a) ← met(s) × policy(a | s) × (Q(s, a) − V(s))
  every preference ← preference + rate × gradient @step`),
  },
  'finite-differences': {
    title: 'Finite differences',
    idea: 'Measures the gradient: a policy a little ahead and one a little back play the same episodes, with the same random numbers.',
    source: 'Kiefer & Wolfowitz 1952; Glasserman & Yao 1992',
    tableHolds: 'preferences',
    purpose: 'control',
    defaultLearningRate: constant(0.1),
    settings: [
      'learningRate',
      'start',
      'temperature',
      'candidates',
      'trialsEach',
      'radius',
      'stepRule',
      'normLimit',
    ],
    pseudo: pseudoCode(`
preference(s, a) ← as chosen for every s and a @start
repeat
  gradient ← 0
  for each of the candidates
    u ← a random direction
    ahead ← mean return of preferences + radius × u @step
    back ← mean return of preferences − radius × u, with the same random numbers
    gradient ← gradient + (ahead − back) / (2 × radius) × u / candidates @episode
  every preference ← preference + rate × gradient`),
  },
  'hill-climbing': {
    title: 'Hill climbing (random restarts)',
    idea: 'Goes to a neighbouring policy if that pays better over the same episodes; begins again elsewhere when none does.',
    source: 'Rechenberg 1973; Russell & Norvig 2021, section 4.1',
    tableHolds: 'preferences',
    purpose: 'control',
    defaultLearningRate: constant(1),
    settings: ['start', 'temperature', 'trialsEach', 'radius', 'patience'],
    pseudo: pseudoCode(`
here ← preferences as chosen; best ← here @start
repeat
  play some episodes with here, and the same with a neighbour: here + radius × noise @step
  if the neighbour paid better
    here ← the neighbour; halve the radius; best ← here if it is @episode
  else
    double the radius
    after too many failures in a row, here ← a random place`),
  },
  'cross-entropy': {
    title: 'Cross-entropy method',
    idea: 'Tries many policies drawn around a mean, keeps the best part of them, and draws the next ones around these.',
    source: 'Rubinstein 1999; de Boer, Kroese, Mannor & Rubinstein 2005; Szita & Lőrincz 2006',
    tableHolds: 'preferences',
    purpose: 'control',
    defaultLearningRate: constant(1),
    settings: ['start', 'temperature', 'candidates', 'trialsEach', 'radius', 'elite'],
    pseudo: pseudoCode(`
mean ← preferences as chosen; spread ← radius @start
repeat
  for each of the candidates
    draw its preferences, normal with mean and spread; play some episodes @step
  keep the candidates that paid best @episode
  mean, spread ← theirs, the spread a little wider`),
  },
  'keep-better': {
    title: 'Keep what paid better',
    idea: 'Changes the policy at random and keeps the change if it paid better: the barest search there is.',
    source: 'Rastrigin 1963',
    tableHolds: 'preferences',
    purpose: 'control',
    defaultLearningRate: constant(1),
    settings: ['start', 'temperature', 'trialsEach', 'radius'],
    pseudo: pseudoCode(`
kept ← preferences as chosen; best ← what it pays @start
repeat
  candidate ← kept + radius × noise
  play some episodes with it @step
  if their mean return is above best
    kept ← candidate; best ← that mean return @episode`),
  },
} as const satisfies Record<string, LearnMethod>

export type LearnMethodId = keyof typeof LEARN_METHODS
export const LEARN_METHOD_IDS = Object.keys(LEARN_METHODS) as LearnMethodId[]

export function learnMethod(id: LearnMethodId): LearnMethod {
  return LEARN_METHODS[id]
}

/** Which line of the pseudo-code is at hand. */
export function pseudoPlaceOf(method: LearnMethod, learner: Learner): string {
  if (learner.steps === 0) return 'start'
  const whole = method.pseudo.some(({ at }) => at === 'episode')
  return whole && learner.last.ended !== 'no' ? 'episode' : 'step'
}
