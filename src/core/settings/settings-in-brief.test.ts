import { expect, it } from 'vitest'
import { constant } from '../learn/schedule'
import { LEARN_DEFAULTS } from './settings'
import { choiceBeside, sameButRun } from './settings-in-brief'
import type { LearnChoice } from './choice'

const { policy: _, ...defaults } = LEARN_DEFAULTS
const CHOICE: LearnChoice = { ...defaults, method: 'sarsa', source: 'equiprobable', discount: 0.9, cap: 100 }

it('names a choice by its method and by what is different about it', () => {
  expect(choiceBeside(CHOICE, null)).toBe('SARSA')
  expect(choiceBeside({ ...CHOICE, run: 7 }, CHOICE)).toBe('SARSA')
  expect(choiceBeside({ ...CHOICE, learningRate: constant(0.5), seed: 3 }, CHOICE)).toBe(
    'SARSA (rate 0.5, seed 3)',
  )
  expect(choiceBeside({ ...CHOICE, discount: 0.5 }, CHOICE)).toBe('SARSA (discount 0.5)')
  expect(choiceBeside({ ...CHOICE, method: 'q-learning' }, CHOICE)).toBe('Q-learning')
  expect(sameButRun({ ...CHOICE, run: 3 }, CHOICE)).toBe(true)
  expect(sameButRun({ ...CHOICE, cap: 3 }, CHOICE)).toBe(false)
})

it('names settings that have no place in such a line by their labels', () => {
  expect(choiceBeside({ ...CHOICE, ties: 'first' }, CHOICE)).toBe('SARSA (tie-breaking the first)')
  const optimist = { ...CHOICE, start: { kind: 'constant', value: 12 } } as const
  expect(choiceBeside(optimist, CHOICE)).toBe('SARSA (initial values the same number 12)')
  expect(choiceBeside({ ...CHOICE, cap: 3 }, CHOICE)).toBe('SARSA (step limit 3)')
})
