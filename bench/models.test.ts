import { describe, expect, it } from 'vitest'
import { businessBench, gridBench, modelSums } from './models'

// What a program in another language counts and sums up for its own models of the same description.
describe('the models of the bench are those of the program beside which it is measured', () => {
  it('on the grid', () => {
    const sums = modelSums(gridBench(4096))
    expect(sums).toMatchObject({
      states: 4096,
      endings: 385,
      rows: 16384,
      outcomes: 49152,
      successors: 4829989686,
    })
    expect(sums.probabilities).toBeCloseTo(65534.8, 6)
    expect(sums.rewards).toBeCloseTo(-480.205, 6)
  })

  it('in the business', () => {
    const sums = modelSums(businessBench(4096))
    expect(sums).toMatchObject({
      states: 4096,
      endings: 0,
      rows: 38080,
      outcomes: 761600,
      successors: 63843301575,
    })
    expect(sums.probabilities).toBeCloseTo(152320, 6)
    expect(sums.rewards).toBeCloseTo(895661.261891, 6)
  })

  it('starts in the first state and cuts episodes off after 200 steps', () => {
    for (const model of [gridBench(100), businessBench(100)]) {
      expect([...model.startState]).toEqual([0])
      expect(model.cap).toBe(200)
    }
  })
})
