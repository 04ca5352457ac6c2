import { describe, expect, it } from 'vitest'
import { chancyGrid, newLearner } from '../testing/learning'
import { rateOfVisit, scheduleAt, scheduleSentence, type Schedule } from './schedule'

const linear: Schedule = { kind: 'linear', from: 1, to: 0.05, over: 10_000, per: 'episode' }
const exponential: Schedule = { kind: 'exponential', from: 1, to: 0.01, over: 201, per: 'episode' }

describe('a schedule', () => {
  it('falls evenly to its floor and stays there', () => {
    expect(scheduleAt(linear, 0)).toBe(1)
    // Episode 10,000 is the first at the floor: 9,999 are over then.
    expect(scheduleAt(linear, 3333)).toBeCloseTo(1 - 0.95 / 3, 12)
    expect(scheduleAt(linear, 9998)).toBeGreaterThan(0.05)
    expect(scheduleAt(linear, 9999)).toBe(0.05)
    expect(scheduleAt({ ...linear, over: 1 }, 0)).toBe(0.05)
    expect(scheduleAt(linear, 1e9)).toBe(0.05)
  })

  it('falls by the same factor each time', () => {
    expect(scheduleAt(exponential, 0)).toBe(1)
    expect(scheduleAt(exponential, 100)).toBeCloseTo(0.1, 12)
    expect(scheduleAt(exponential, 200)).toBe(0.01)
    const factor = scheduleAt(exponential, 1)
    for (let n = 1; n < 200; n++)
      expect(scheduleAt(exponential, n) / scheduleAt(exponential, n - 1)).toBeCloseTo(factor, 10)
  })

  it('by visits is 1/n, or slower', () => {
    const plain: Schedule = { kind: 'visits', from: 1, slowness: 1 }
    for (const n of [1, 2, 7, 100]) expect(rateOfVisit(plain, n)).toBe(1 / n)
    const slow: Schedule = { kind: 'visits', from: 0.5, slowness: 10 }
    expect(rateOfVisit(slow, 1)).toBe(0.5)
    expect(rateOfVisit(slow, 11)).toBe(0.25)
  })

  it('says when it reaches its final value', () => {
    expect(scheduleSentence(linear, 15_000)).toBe(
      'Falls by 0.000095 each episode; reaches its final value in episode 10\u202f000 of 15\u202f000.',
    )
    expect(scheduleSentence(linear, 5001)).toMatch(/the run ends before its final value, at 0\.525\.$/)
    expect(scheduleSentence(linear, 10_000)).toMatch(/in episode 10\u202f000 of 10\u202f000\.$/)
    expect(scheduleSentence(exponential, 1000)).toMatch(
      /^Times 0\.977237 each episode; reaches its final value in episode 201 of/,
    )
    expect(scheduleSentence({ ...linear, per: 'step' }, 1)).toMatch(/in step 10\u202f000\.$/)
    expect(scheduleSentence({ kind: 'constant', from: 0.1 }, 5)).toBe('Stays at 0.1 throughout.')
    expect(scheduleSentence({ kind: 'visits', from: 1, slowness: 1 }, 5)).toMatch(/plain mean/)
    expect(scheduleSentence({ kind: 'drop', from: 0.5, to: 0.1 }, 5)).toMatch(/0\.5 until .* then 0\.1/)
  })
})

describe('a run', () => {
  const at = (schedule: Schedule, learningRate: Schedule) =>
    newLearner('q-learning', chancyGrid(), {
      exploration: { way: 'epsilon-greedy', level: schedule },
      learningRate,
      cap: 10,
    })

  it('explores by episodes, and drops its learning rate when exploration ends', () => {
    const learner = at(
      { kind: 'linear', from: 1, to: 0.2, over: 41, per: 'episode' },
      { kind: 'drop', from: 0.5, to: 0.1 },
    )
    while (learner.log.count < 20) learner.advance(1)
    learner.advance(1)
    expect(learner.level).toBeCloseTo(0.6, 12)
    expect(learner.rate).toBe(0.5)
    while (learner.log.count < 40) learner.advance(1)
    expect(learner.rate).toBe(0.5)
    learner.advance(1)
    expect(learner.level).toBe(0.2)
    expect(learner.rate).toBe(0.1)
  })

  it('explores by steps, as often as it should', () => {
    const learner = at(
      { kind: 'linear', from: 1, to: 0, over: 2001, per: 'step' },
      { kind: 'constant', from: 0.1 },
    )
    let explored = 0
    for (let step = 0; step < 2000; step++) {
      learner.advance(1)
      expect(learner.level).toBeCloseTo(1 - step / 2000, 12)
      if (learner.last.explored) explored++
    }
    // The chances add up to 1,000.5; the variance of such a sum is at most 2,000 / 6: five standard deviations.
    expect(Math.abs(explored - 1000.5)).toBeLessThan(92)
    learner.advance(200)
    expect(learner.last.explored).toBe(false)
  })
})
