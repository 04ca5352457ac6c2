import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { compileEnvironment } from '../environment/compile'
import { checkEnvironment } from '../environment/document'
import { playTrials } from '../evaluate/rollout'
import { World } from '../learn/world'
import { RandomStream } from '../random/generator'
import { gridDocument } from '../testing/models'
import { ENDED, OPEN, PlayedEpisodes } from './played-episodes'

const demo = (name: string) => checkEnvironment(JSON.parse(readFileSync(`demo/${name}.json`, 'utf8')))

/** A policy that takes one action in every state, drawn once. */
function anyPolicy(world: World, seed: number): Int32Array {
  const stream = new RandomStream(seed, 'problem', 0)
  const { model } = world
  return Int32Array.from({ length: model.states }, (_, s) => {
    const number = model.rowStart[s + 1] - model.rowStart[s]
    return number && model.rowAction[model.rowStart[s] + stream.below(number)]
  })
}

describe('episodes that are played from outside', () => {
  it.each(['night-rounds', 'vault-dial', 'evening-tickets', 'which-poster'])(
    'come to what the player of episodes comes to with the same seed: %s',
    (name) => {
      const document = demo(name)
      const { model } = compileEnvironment(document)
      const [cap, discount] = [model.cap || 100, document.discount]
      for (const seed of [1, 77]) {
        const world = new World(model)
        const policy = anyPolicy(world, seed)
        const rows = new Float64Array(model.rows)
        for (let s = 0; s < model.states; s++)
          for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
            if (model.rowAction[r] === policy[s]) rows[r] = 1
        const trials = playTrials(world, rows, { seed, cap, discount, episodes: 12, first: 3 })
        const played = new PlayedEpisodes(new World(model), { seed, cap, discount, episodes: 12, first: 3 })
        while (played.open.length) played.step(played.open.map((k) => policy[played.stateOf(k)]))
        for (let k = 0; k < 12; k++) {
          expect(played.returns[k]).toBeCloseTo(trials.returns[k], 9)
          expect(played.outcomes[k] === ENDED ? played.lengths[k] : -played.lengths[k]).toBe(
            trials.lengths[k],
          )
        }
      }
    },
  )

  it('see no more than an agent sees', () => {
    const world = new World(compileEnvironment(demo('same-looking-doors')).model)
    const played = new PlayedEpisodes(world, { seed: 5, first: 0, episodes: 50, cap: 20, discount: 1 })
    const seen = played.observations()
    played.open.forEach((k, i) => expect(seen[i]).toBe(world.observation[played.stateOf(k)]))
    expect(world.model.observations).toBeLessThan(world.model.states)
  })

  it('go on in none of them where an action is not possible, or one is missing', () => {
    const { model } = compileEnvironment(
      gridDocument(['...'], {
        starts: [{ at: 'A1', weight: 1 }],
        endings: [{ at: 'C1', reward: 5, name: '' }],
      }),
    )
    const east = model.actions.indexOf('east')
    const played = new PlayedEpisodes(new World(model), {
      seed: 1,
      first: 0,
      episodes: 2,
      cap: 9,
      discount: 0.5,
    })
    expect(() => played.step([east])).toThrow('There are 1 actions for 2 open episodes.')
    expect(() => played.step([east, 99])).toThrow('The action 99 is not possible there.')
    expect([...played.lengths]).toEqual([0, 0])
    expect(played.step([east, east]).states).toEqual([OPEN, OPEN])
    // By hand: -1, then half of (5 - 1).
    expect(played.step([east, east])).toMatchObject({ rewards: [4, 4], states: [ENDED, ENDED] })
    expect([...played.returns]).toEqual([1, 1])
    expect(played.step([]).states).toEqual([])
  })
})
