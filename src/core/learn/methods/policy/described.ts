import { pseudoCode } from '../../../explain/pseudo-code'
import { constant } from '../../schedule'
import { GRADIENT, ENDED, type LearnMethod } from '../method'

/** Policy search: preferences, gradients and searches by returns. */
export const policyMethods = {
  reinforce: {
    title: 'REINFORCE',
    idea: 'After an episode, makes each action taken more likely in proportion to the return that followed it, less a baseline.',
    source: 'Williams 1992; Sutton & Barto 2018, sections 13.3 and 13.4',
    tableHolds: 'preferences',
    purpose: 'control',
    defaultLearningRate: constant(0.005),
    settings: [...GRADIENT, 'shape', 'weighting', 'baseline', 'criticRate'],
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
    settings: [...GRADIENT, 'shape', 'criticRate', 'weighting'],
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
    settings: [...GRADIENT, 'shape', 'criticRate', 'weighting', 'lookahead', 'lambda'],
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
    playsCandidates: true,
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
    playsCandidates: true,
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
    playsCandidates: true,
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
    playsCandidates: true,
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
