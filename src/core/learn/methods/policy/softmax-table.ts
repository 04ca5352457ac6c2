import { exponential } from '../../../random/exponential'
import { logarithm } from '../../../random/logarithm'
import { plainArrays, type Allocate } from '../../greedy-table'

/** A preference for each action of each observation, and the softmax of preferences / temperature. */
export class SoftmaxTable {
  /** [rows] call `refresh` after writing */
  readonly preferences: Float64Array
  /** [rows] */
  readonly probability: Float64Array
  /** [observations] the largest preference, and the sum of e to the power of (preference − largest) / temperature */
  readonly top: Float64Array
  readonly sum: Float64Array

  /** @param start [observations + 1] the rows of each observation */
  constructor(
    readonly start: Int32Array,
    readonly temperature: number,
    allocate: Allocate = plainArrays,
  ) {
    const observations = start.length - 1
    this.preferences = allocate.floats(start[observations])
    this.probability = allocate.floats(start[observations])
    this.top = allocate.floats(observations)
    this.sum = allocate.floats(observations)
  }

  /** The largest preference is taken off first, so that no exponential overflows and the sum is at least 1. */
  refresh(observation: number): void {
    const { preferences, probability, temperature } = this
    const from = this.start[observation]
    const end = this.start[observation + 1]
    let most = -Infinity
    for (let r = from; r < end; r++) if (preferences[r] > most) most = preferences[r]
    let sum = 0
    for (let r = from; r < end; r++) {
      probability[r] = exponential((preferences[r] - most) / temperature)
      sum += probability[r]
    }
    for (let r = from; r < end; r++) probability[r] /= sum
    this.top[observation] = most
    this.sum[observation] = sum
  }

  refreshAll(): void {
    for (let observation = 0; observation < this.top.length; observation++) this.refresh(observation)
  }

  /** A number also where the probability itself rounds to 0. */
  logProbability(observation: number, row: number): number {
    return (
      (this.preferences[row] - this.top[observation]) / this.temperature - logarithm(this.sum[observation])
    )
  }

  /** −Σ probability × its logarithm, in nats. */
  entropy(observation: number): number {
    let entropy = 0
    for (let r = this.start[observation]; r < this.start[observation + 1]; r++)
      entropy -= this.probability[r] * this.logProbability(observation, r)
    return entropy
  }
}
