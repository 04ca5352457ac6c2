import { describe, expect, it } from 'vitest'
import { compileEnvironment } from '../environment/compile'
import { rulebookEnvironment } from '../kinds/rulebook/blank'
import { makeCheckpoint } from '../learn/checkpoint'
import { World } from '../learn/world'
import { ProblemError } from '../problem'
import { followedName, followedPolicy, type Followed } from './followed'

const DOCUMENT = {
  ...rulebookEnvironment(
    'round',
    `state a from 0 to 2
start a = 0
action wait
action walk when a > 0
action run when a < 2
reward if action = wait then 0 else -1
reward 5 when action = run and a = 1
next a = if action = run then a + 1 else if action = walk then a - 1 else a
end when a = 2
policy "never wait": walk, run`,
  ),
  discount: 0.9,
}
const compiled = compileEnvironment(DOCUMENT)
const { model } = compiled
const policy = (followed: Followed, discount = 0.9) => {
  const rows = followedPolicy(compiled, followed, discount)
  return Object.fromEntries(
    Array.from({ length: model.states }, (_, s) => [
      model.labels[s],
      Array.from({ length: model.rowStart[s + 1] - model.rowStart[s] }, (_, k) => {
        const row = model.rowStart[s] + k
        return `${model.actions[model.rowAction[row]]} ${rows[row]}`
      }).filter((text) => !text.endsWith(' 0')),
    ]),
  )
}
const [ZERO, ONE] = model.labels
const THIRD = 1 / 3

describe('a policy that does not learn', () => {
  it('takes all actions, one of them, or what is written, drawn and best', () => {
    expect(policy({ kind: 'random' })).toMatchObject({ [ZERO]: ['wait 0.5', 'run 0.5'] })
    // Where the action is not to be had, all are taken.
    expect(policy({ kind: 'action', action: 'walk' })).toMatchObject({
      [ZERO]: ['wait 0.5', 'run 0.5'],
      [ONE]: ['walk 1'],
    })
    expect(policy({ kind: 'written', title: 'never wait' })).toMatchObject({
      [ZERO]: ['run 1'],
      [ONE]: ['walk 1'],
    })
    expect(policy({ kind: 'drawn', drawing: { [ZERO]: 'run' } })).toMatchObject({
      [ZERO]: ['run 1'],
      [ONE]: [`wait ${THIRD}`, `walk ${THIRD}`, `run ${THIRD}`],
    })
    // −1 + 0.9 x 4 is better than nothing.
    expect(policy({ kind: 'optimum' })).toMatchObject({ [ZERO]: ['run 1'], [ONE]: ['run 1'] })
  })

  it('is that of a kept table: greedy in action values, the softmax of preferences', () => {
    const world = new World(model)
    const table = Float64Array.of(0, 2, 0, 0, Math.log(2))
    const about = { name: 'kept', environment: '', settings: null, steps: 1, episodes: 1 }
    const values = makeCheckpoint(world, table, { ...about, method: 'sarsa', holds: 'action values' })
    expect(policy({ kind: 'table', checkpoint: values })).toMatchObject({
      [ZERO]: ['run 1'],
      [ONE]: ['run 1'],
    })
    const preferences = makeCheckpoint(world, table, { ...about, method: 'reinforce', holds: 'preferences' })
    const rows = followedPolicy(compiled, { kind: 'table', checkpoint: preferences }, 0.9)
    expect([...rows].map((chance) => chance.toFixed(6))).toEqual(
      [1 / (1 + Math.exp(2)), 1 / (1 + Math.exp(-2)), 0.25, 0.25, 0.5].map((chance) => chance.toFixed(6)),
    )
    const ofStates = makeCheckpoint(world, new Float64Array(3), { ...about, method: 'td-0', holds: 'values' })
    expect(() => policy({ kind: 'table', checkpoint: ofStates })).toThrow('values of states')
  })

  it.each<[Followed, string]>([
    [{ kind: 'action', action: 'fly' }, 'no action "fly"'],
    [{ kind: 'written', title: 'gone' }, 'never wait'],
    [{ kind: 'drawn', drawing: {} }, 'Nothing is drawn'],
  ])('says what it lacks: %j', (followed, cause) => {
    expect(() => policy(followed)).toThrow(ProblemError)
    expect(() => policy(followed)).toThrow(cause)
  })

  it('has a name', () => {
    expect(followedName({ kind: 'random' })).toBe('random agent')
    expect(followedName({ kind: 'written', title: 'never wait' })).toBe('never wait')
  })
})
