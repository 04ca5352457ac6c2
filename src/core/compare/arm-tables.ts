import { compileBandit, PaySchedule } from '../kinds/bandit/compile'
import type { Arm, Bandit } from '../kinds/bandit/document'
import { drawnArms } from '../kinds/bandit/drawn'
import { meanOf, prizesOf, slicesOf, type PayOff } from '../kinds/bandit/pay-off'
import { fillGuide, fillThresholds, World } from '../learn/world'
import type { Room } from '../wasm/room'

/**
 * A bandit without drift laid out for many runs: pulls of an episode are alike but for the last one, after which no
 * context follows. Rows are [phase x contexts x arms], phase 0 for pulls with a pull to follow, 1 for the last one; an
 * episode of one pull has phase 0 only, which is its last. Thresholds and draws are those of `World`, to the last bit.
 */
export class ArmTables {
  readonly contexts: number
  readonly arms: number
  /** [contexts x arms] how much less an arm pays than the best one there; 0 for the best ones */
  readonly gap: Float64Array
  /** [rows + 1] */
  readonly outcomeStart: Int32Array
  /** [outcomes] the context that follows */
  readonly outcomeContext: Int32Array
  readonly outcomeReward: Float64Array
  readonly threshold: Int32Array
  /** [outcomes] where to begin looking for a draw in that part of a row's range */
  readonly guide: Int32Array
  readonly startThreshold: Int32Array
  readonly startGuide: Int32Array
  /** The largest reward, in size. */
  rewardLimit = 0
  private readonly phases: number
  /** [contexts] */
  private readonly chances: number[]
  private readonly means: Float64Array
  /** Whether the arms in the tables are continuous ones, whose chances do not change when they are drawn anew. */
  private sliced = false

  constructor(
    private readonly bandit: Bandit,
    room: Room,
  ) {
    const { arms, contexts } = bandit
    this.contexts = Math.max(1, contexts.length)
    this.arms = arms.length
    this.phases = bandit.pulls > 1 ? 2 : 1
    const total = contexts.reduce((sum, { weight }) => sum + weight, 0)
    this.chances = contexts.length ? contexts.map(({ weight }) => weight / total) : [1]
    // How episodes begin is the same for all runs.
    const { startThreshold, startGuide } = new World(compileBandit({ ...bandit, pulls: 1 }, 1).model)
    this.startThreshold = room.copied(startThreshold)
    this.startGuide = room.copied(startGuide)
    const { rows, outcomes } = roomForArms(bandit)
    this.gap = room.floats(this.contexts * this.arms)
    this.means = new Float64Array(this.contexts * this.arms)
    this.outcomeStart = room.ints(rows + 1)
    this.outcomeContext = room.ints(outcomes)
    this.outcomeReward = room.floats(outcomes)
    this.threshold = room.ints(outcomes)
    this.guide = room.ints(outcomes)
    this.fill(arms)
  }

  /** Where all arms are continuous and nothing follows but the next pull: so many bits of a draw say which slice it is. */
  get bits(): number {
    const slices = slicesOf(paysIn(this.bandit.arms[0].pays, 0))
    return this.sliced && slices && this.contexts === 1 ? Math.log2(slices.of.length) : 0
  }

  /** Normal arms that are drawn anew and look the same in all pulls, by their means and deviations; null for others. */
  get normalArms(): {
    readonly means: readonly number[]
    readonly deviations: readonly number[]
    readonly slices: readonly number[]
  } | null {
    const { anew = 0, arms } = this.bandit
    const pays = arms.map((arm) => arm.pays[0])
    if (anew === 0 || this.contexts > 1 || this.phases > 1 || !this.sliced) return null
    const normal = pays.flatMap((pay) => (pay.type === 'gaussian' ? [pay] : []))
    if (normal.length < pays.length) return null
    return {
      means: normal.map(({ mean }) => mean),
      deviations: normal.map(({ deviation }) => deviation),
      slices: slicesOf(normal[0])!.of,
    }
  }

  /** Makes the tables those of the bandit that a run meets. */
  drawFor(seed: number, run: number): void {
    const drawn = drawnArms(this.bandit, seed, run)
    if (drawn === this.bandit.arms) return
    if (this.sliced) this.fillRewards(drawn)
    else this.fill(drawn)
  }

  private fill(written: readonly Arm[]): void {
    const { contexts, phases, chances } = this
    const probability: number[] = []
    let row = 0
    this.sliced = true
    this.rewardLimit = 0
    for (let phase = 0; phase < phases; phase++)
      for (let c = 0; c < contexts; c++)
        for (const arm of written) {
          const pays = paysIn(arm.pays, c)
          if (!slicesOf(pays)) this.sliced = false
          const from = this.outcomeStart[row]
          let at = from
          for (const prize of prizesOf(pays))
            for (let next = 0; next < (phase === phases - 1 ? 1 : contexts); next++) {
              this.outcomeReward[at] = prize.reward
              this.rewardLimit = Math.max(this.rewardLimit, Math.abs(prize.reward))
              this.outcomeContext[at] = next
              probability[at++] = phase === phases - 1 ? prize.probability : prize.probability * chances[next]
            }
          fillThresholds(this.threshold, probability, from, at)
          fillGuide(this.guide, this.threshold, from, at)
          this.outcomeStart[++row] = at
        }
    this.fillGaps(written)
  }

  /** Of continuous pay-offs: nothing but rewards changes. */
  private fillRewards(arms: readonly Arm[]): void {
    const { contexts, phases, outcomeReward } = this
    let at = 0
    let limit = 0
    for (let phase = 0; phase < phases; phase++) {
      const width = phase === phases - 1 ? 1 : contexts
      for (let c = 0; c < contexts; c++)
        for (const arm of arms) {
          const { at: middle, by, of } = slicesOf(paysIn(arm.pays, c))!
          if (width === 1) for (let k = 0; k < of.length; k++) outcomeReward[at + k] = middle + by * of[k]
          else
            for (let k = 0; k < of.length; k++)
              outcomeReward.fill(middle + by * of[k], at + k * width, at + (k + 1) * width)
          // The slices go from the lowest to the highest.
          limit = Math.max(
            limit,
            Math.abs(outcomeReward[at]),
            Math.abs(outcomeReward[at + width * of.length - 1]),
          )
          at += width * of.length
        }
    }
    this.rewardLimit = limit
    this.fillGaps(arms)
  }

  private fillGaps(written: readonly Arm[]): void {
    const { contexts, arms, means, gap } = this
    for (let c = 0; c < contexts; c++) {
      for (let a = 0; a < arms; a++) means[c * arms + a] = meanOf(paysIn(written[a].pays, c))
      fillGapsOf(means, c * arms, (c + 1) * arms, gap)
    }
  }
}

function paysIn(pays: readonly PayOff[], context: number): PayOff {
  return pays.length === 1 ? pays[0] : pays[context]
}

/** How many rows and outcomes the tables need at the most. */
export function roomForArms({ arms, contexts, pulls }: Bandit): { rows: number; outcomes: number } {
  const width = Math.max(1, contexts.length)
  const phases = pulls > 1 ? 2 : 1
  let prizes = 0
  for (let c = 0; c < width; c++)
    // Drawn anew, a Bernoulli arm that always or never pays may come to do both.
    for (const { pays } of arms) prizes += Math.max(2, prizesOf(paysIn(pays, c)).length)
  return { rows: phases * width * arms.length, outcomes: prizes * (phases === 2 ? width + 1 : 1) }
}

/** How far the means from `from` to `to` lie below the largest; what rounding may have made of 0 is 0. */
function fillGapsOf(means: Float64Array, from: number, to: number, gap: Float64Array): void {
  let best = -Infinity
  for (let i = from; i < to; i++) if (means[i] > best) best = means[i]
  const nothing = 1e-12 * Math.max(1, Math.abs(best))
  for (let i = from; i < to; i++) gap[i] = best - means[i] <= nothing ? 0 : best - means[i]
}

/** [rows of the compiled bandit] how much less each arm pays than the best one, pull by pull where they drift. */
export function gapsOfRows(bandit: Bandit): Float64Array {
  const { arms, contexts, pulls } = bandit
  const width = Math.max(1, contexts.length)
  const schedule = new PaySchedule(bandit)
  const means = new Float64Array(pulls * width * arms.length)
  const gap = new Float64Array(means.length)
  for (let pull = 1, row = 0; pull <= pulls; pull++)
    for (let c = 0; c < width; c++) {
      for (let a = 0; a < arms.length; a++) means[row + a] = meanOf(schedule.at(pull, a, c))
      fillGapsOf(means, row, row + arms.length, gap)
      row += arms.length
    }
  return gap
}
