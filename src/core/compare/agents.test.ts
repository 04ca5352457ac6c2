import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { readEnvironment } from '../environment/read'
import { EXPLORATION_WAYS } from '../learn/explore/explorations'
import { constant } from '../learn/schedule'
import type { LearnChoice } from '../settings/choice'
import { LEARN_DEFAULTS } from '../settings/settings'
import { agentName, usualAgents } from './agents'
import { doublings, variable, VARIABLE_IDS } from './variables'
import type { BanditDocument } from './pull-task'

const { policy: _policy, ...DEFAULTS } = LEARN_DEFAULTS
const BASE: LearnChoice = {
  ...DEFAULTS,
  method: 'bandit-values',
  source: 'equiprobable',
  discount: 1,
  cap: 1000,
  learningRate: { kind: 'visits', from: 1, slowness: 1 },
}
const demo = (name: string) =>
  readEnvironment(readFileSync(`demo/${name}.json`, 'utf8'), '') as BanditDocument

describe('the name of an agent', () => {
  it.each<[string, Partial<LearnChoice>]>([
    ['ε-greedy 0.1', {}],
    ['greedy', { exploration: { way: 'epsilon-greedy', level: constant(0) } }],
    ['UCB1, width 2', { exploration: { way: 'ucb1', level: constant(2) } }],
    [
      'ε-greedy 0.1, rate 0.2, initial 5',
      { learningRate: constant(0.2), start: { kind: 'constant', value: 5 } },
    ],
    ['Q-learning, ε-greedy 0.1', { method: 'q-learning' }],
    [
      'gradient, rate 0.1, no baseline',
      { method: 'gradient-bandit', learningRate: constant(0.1), baseline: { kind: 'none' } },
    ],
    [
      'gradient, rate 0.1, baseline 2, temperature 0.5',
      {
        method: 'gradient-bandit',
        learningRate: constant(0.1),
        baseline: { kind: 'constant', value: 2 },
        temperature: 0.5,
      },
    ],
  ])('%s', (name, part) => {
    expect(
      agentName({ ...BASE, exploration: { way: 'epsilon-greedy', level: constant(0.1) }, ...part }),
    ).toBe(name)
  })

  it('leaves out what varies', () => {
    const optimistic = { ...BASE, start: { kind: 'constant', value: 5 } } as const
    expect(agentName(optimistic, 'start')).not.toContain('initial')
    expect(agentName({ ...BASE, learningRate: constant(0.3) }, 'rate')).not.toContain('0.3')
    expect(agentName({ ...BASE, exploration: { way: 'ucb1', level: constant(2) } }, 'level')).toBe(
      'upper confidence bound (UCB1)',
    )
  })
})

describe('the usual agents', () => {
  it.each([
    ['which-poster', 'posterior-bernoulli', 1, 1],
    ['loans-of-the-season', 'posterior-gaussian', 1, 5],
  ] as const)('suit the arms of %s', (name, way, level, initial) => {
    const agents = usualAgents(demo(name), BASE)
    expect(new Set(agents.map(({ choice }) => agentName(choice))).size).toBe(agents.length)
    expect(agents.at(-1)!.choice.exploration).toEqual({ way, level: constant(level) })
    expect(agents.map(({ choice }) => choice.start)).toContainEqual({ kind: 'constant', value: initial })
    for (const { choice, varied } of agents) expect(variable(varied).has(choice)).toBe(true)
  })
})

describe('a setting that is varied', () => {
  it('takes what its range allows, for every way to explore', () => {
    for (const way of EXPLORATION_WAYS) {
      const choice = { ...BASE, exploration: { way, level: constant(1) } }
      const changed = variable('level').with(choice, 1)
      expect(changed && variable('level').value(changed)).toBe(1)
    }
    const greedy = { ...BASE, exploration: { way: 'epsilon-greedy', level: constant(1) } } as const
    expect(variable('level').with(greedy, 2)).toBeNull()
    expect(variable('rate').with(BASE, 2)).toBeNull()
    expect(variable('rate').with({ ...BASE, method: 'gradient-bandit' }, 2)).not.toBeNull()
  })

  it('reads back what it wrote', () => {
    for (const id of VARIABLE_IDS) {
      const changed = variable(id).with(BASE, 0.25)!
      expect(variable(id).value(changed)).toBe(0.25)
    }
  })

  it('goes by doubling, both ends included', () => {
    expect(doublings(1 / 8, 2)).toEqual([1 / 8, 1 / 4, 1 / 2, 1, 2])
    expect(doublings(3, 5)).toEqual([3])
  })
})
