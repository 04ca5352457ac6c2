import { pseudoCode } from '../../../explain/pseudo-code'
import { constant } from '../../schedule'
import { CONTROL, CHOOSE, ENDED, type LearnMethod } from '../method'

/** Control with a learned model. */
export const modelMethods = {
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
} as const satisfies Record<string, LearnMethod>
