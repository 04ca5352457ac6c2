import { describe, expect, it } from 'vitest'
import { compileEnvironment } from '../../core/environment/compile'
import { gridDocument } from '../../core/testing/models'
import { beginPlay, endPlay, playSession, sessionsOf, stepPlay } from './play-sessions'

const { model } = compileEnvironment(
  gridDocument(['....'], {
    starts: [{ at: 'A1', weight: 1 }],
    endings: [{ at: 'D1', reward: 7, name: '' }],
  }),
)
const [east, west] = ['east', 'west'].map((name) => model.actions.indexOf(name))
const begin = (player: string, episodes = 2) =>
  beginPlay({
    ...{ player, assignment: 'a', level: 'Only', seed: 1, first: 0, episodes, part: null },
    playable: { model, cap: 4, discount: 1 },
  })

describe('a session', () => {
  it('answers the same request again as before, and no other out of its turn', () => {
    const session = begin('ada')
    const first = stepPlay(session, 1, [east, west])
    expect(stepPlay(session, 1, [west, west])).toBe(first)
    for (const number of [0, 3, 7])
      expect(() => stepPlay(session, number, [east, east])).toThrow(`It is ${number}; the last one was 1.`)
    const second = stepPlay(session, 2, [east, west])
    expect(second.number).toBe(2)
    expect(stepPlay(session, 2, [])).toBe(second)
    // The one before the last is not answered any more.
    expect(() => stepPlay(session, 1, [east, east])).toThrow('the last one was 2')
    // By hand: the first is in C1 and goes on to the ending; the second bumped into the wall twice.
    const third = stepPlay(session, 3, [east, west])
    expect([third.rewards, third.states, third.open]).toEqual([[6, -1], [1, 0], [1]])
    const fourth = stepPlay(session, 4, [west])
    expect([fourth.states, fourth.open]).toEqual([[2], []])
    expect([...session.episodes.returns]).toEqual([4, -4])
  })

  it('says which episode an action is not possible in', () => {
    const session = begin('ada', 3)
    expect(() => stepPlay(session, 1, [east, 99, east])).toThrow('actions.1 (episode 1)')
    expect(session.last).toBe(0)
    expect(stepPlay(session, 1, [east, east, east]).number).toBe(1)
  })

  it('is that of its player alone, who may have so many', () => {
    const session = begin('bo')
    expect(playSession('bo', session.id)).toBe(session)
    expect(playSession('ada', session.id)).toBeUndefined()
    expect(endPlay('ada', session.id)).toBe(false)
    for (let i = 1; i < 16; i++) begin('bo')
    expect(() => begin('bo')).toThrow('You have 16 open.')
    begin('cy')
    expect(endPlay('bo', session.id)).toBe(true)
    expect(endPlay('bo', session.id)).toBe(false)
    begin('bo')
  })

  it('that has come to its end stands in nobody’s way, and is kept for a while', () => {
    const last: string[] = []
    for (let i = 0; i < 40; i++) {
      const session = begin('di', 1)
      for (let number = 1; session.episodes.open.length; number++) stepPlay(session, number, [east])
      last.push(session.id)
    }
    expect(sessionsOf('di').length).toBeLessThanOrEqual(17)
    expect(stepPlay(playSession('di', last.at(-1)!)!, 3, [east]).states).toEqual([1])
  })

  it('does not take more room than a student may have', () => {
    for (let i = 0; i < 4; i++) begin('ed', 1024)
    expect(() => begin('ed', 1)).toThrow('more than 4096 episodes open')
  })
})
