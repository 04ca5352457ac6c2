import type { Model, RowPolicy } from '../model/model'
import { listNames } from '../problem'
import { actionValues, backupForm, greedyPolicy, type BackupForm } from './backup'
import { endlessGain } from './endless-gain'
import { evaluatePolicy, randomPolicy } from './evaluate'
import { properPolicy } from './proper'
import { statesWithoutEnding, stepsToEnding } from './reach'
import type { PlanSettings } from './plan-settings'
import type { Sweeper } from './sweeper-kind'

/** Where a plan stands. Only `running` goes on. */
export type PlanStatus =
  | { readonly outcome: 'running' }
  | { readonly outcome: 'converged' }
  /** Discount 1, and from these states no action ever leads to an ending. */
  | { readonly outcome: 'never-ends'; readonly states: readonly string[] }
  /** Discount 1, and under the policy at hand these states never end, so that it has no value. */
  | { readonly outcome: 'improper'; readonly states: readonly string[] }
  /** Discount 1, and among these states a policy collects reward for ever. */
  | { readonly outcome: 'gains-for-ever'; readonly states: readonly string[] }
  /** The equations of a policy would take too much memory or time to be solved at once. */
  | { readonly outcome: 'too-large' }
  | { readonly outcome: 'budget-spent' }

/** What a sweep did: took the best action everywhere, followed a policy, solved its equations, or changed the policy. */
export type PlanPhase = 'optimise' | 'evaluate' | 'solve' | 'improve'

/** All that a planner needs to go on from a point in time; methods that remember more add it by name. */
export interface PlanSnapshot {
  readonly values: Float64Array
  readonly policy: RowPolicy | null
  readonly sweeps: number
  readonly backups: number
  readonly phase: PlanPhase
}

type HeldPolicy = () => RowPolicy | null
const NO_POLICY: HeldPolicy = () => null
const NOTHING = new Int32Array(0)
/** Sweeps between looks for a policy that gains for ever; a power of two apart, so that looking stays cheap. */
const FIRST_LOOK = 64

/**
 * A method of dynamic programming, one sweep (or one improvement) at a time, from all zeros.
 *
 * It stops by a bound on the error of the values: with discount < 1 the largest change of a sweep times
 * discount / (1 - discount) (Puterman 1994, theorem 6.3.1; it holds in place as well), with discount 1 the largest
 * change times the expected number of steps to an ending under the greedy policy.
 */
export abstract class Planner {
  private laidOut: BackupForm | undefined
  /** [states] after the last sweep */
  values: Float64Array
  /** [states] before the last sweep */
  before: Float64Array
  private held: HeldPolicy = NO_POLICY
  private heldBefore: HeldPolicy = NO_POLICY
  /** [rows] after and before the last sweep, for methods that keep a table of action values */
  table: Float64Array | null = null
  tableBefore: Float64Array | null = null
  sweeps = 0
  /** Backups of a single action so far: what methods can be compared by. A linear solve makes none. */
  backups = 0
  backupsBefore = 0
  phase: PlanPhase = 'optimise'
  /** The largest change of the last sweep. */
  change = Infinity
  /** No value is further than this from what is computed; infinity while unknown. */
  bound = Infinity
  status: PlanStatus = { outcome: 'running' }
  /** What the last sweep backed up, in order: states, or rows where there is a table. Empty before the first. */
  sequence: Int32Array = NOTHING
  /** [sequence] the value after each backup, where a state may be backed up more than once in a sweep; else null. */
  logged: Float64Array | null = null
  /** Whether a backup uses what the same sweep has made already. */
  inPlace = false
  /** Whether an action that may stay put counts the staying at once (see `sweepForm`). */
  eliminates = false
  private nextLook = FIRST_LOOK
  /** What stood against planning from the beginning. */
  private refused: PlanStatus | null = null
  /** Expected steps to an ending when last looked at; for the bound at discount 1. */
  private stepsLeft = 1

  constructor(
    readonly model: Model,
    readonly settings: PlanSettings,
  ) {
    this.values = new Float64Array(model.states)
    if (settings.initial && settings.discount < 1)
      model.ending.forEach((ending, s) => {
        if (!ending && Number.isFinite(settings.initial![s])) this.values[s] = settings.initial![s]
      })
    this.before = this.values.slice()
    if (settings.discount === 1 && this.needsEnding()) this.lookForEndings()
    if (this.status.outcome !== 'running') this.refused = this.status
  }

  /** At discount 1: whether values are finite at all, and where sweeps have to begin. */
  private lookForEndings(): void {
    const { model } = this
    const lost = statesWithoutEnding(model, stepsToEnding(model, undefined, true))
    if (lost.length) {
      this.status = { outcome: 'never-ends', states: lost }
      return
    }
    if (!this.controls()) return
    const gain = endlessGain(model)
    if (gain.kind === 'positive')
      this.status = { outcome: 'gains-for-ever', states: Array.from(gain.states, (s) => model.labels[s]) }
    if (gain.kind !== 'level') return
    // Where going round pays and costs the same, sweeps from above would keep what is taken back. From the values of a
    // policy that ends they rise to the best ones (Bertsekas & Tsitsiklis 1991).
    const ends = evaluatePolicy(model, properPolicy(model, randomPolicy(model)).policy, 1)
    if (ends.outcome === 'solved' && ends.endless.length === 0) {
      this.values.set(ends.values)
      this.before.set(ends.values)
    }
  }

  /** [rows] the policy that is followed; null for methods that hold none */
  get policy(): RowPolicy | null {
    return this.held()
  }

  set policy(policy: RowPolicy | null) {
    this.held = () => policy
  }

  /** [rows] the policy before the last sweep */
  get policyBefore(): RowPolicy | null {
    return this.heldBefore()
  }

  /** Holds a policy that is written out only when somebody asks for it. */
  protected holdPolicy(write: () => RowPolicy): void {
    let written: RowPolicy | undefined
    this.held = () => (written ??= write())
  }

  /** Moves the values to where the sweeps are made. */
  protected liveIn([values, before]: Sweeper['tables']): void {
    values.set(this.values)
    before.set(this.before)
    this.values = values
    this.before = before
  }

  /** The model with the discount folded in; laid out when first asked for. */
  get form(): BackupForm {
    return (this.laidOut ??= backupForm(this.model, this.settings.discount))
  }

  /** Whether at discount 1 every state must have a way to an ending. */
  protected needsEnding(): boolean {
    return true
  }

  /** Whether it looks for the best policy; else it evaluates a given one, which may be content with little. */
  protected controls(): boolean {
    return true
  }

  /** Whether the policy that is followed is evaluated as far as the method wants it, and an improvement comes next. */
  get evaluated(): boolean {
    return false
  }

  /** Goes through the states once, from `before` to `values`, and judges. */
  protected abstract advance(): void

  /** One sweep; does nothing once the status is no longer `running`. */
  sweep(): void {
    if (this.status.outcome !== 'running') return
    const before = this.values
    this.values = this.before
    this.before = before
    this.heldBefore = this.held
    this.backupsBefore = this.backups
    this.sweeps++
    this.advance()
    if (this.status.outcome === 'running' && this.sweeps >= this.settings.sweeps)
      this.status = { outcome: 'budget-spent' }
  }

  snapshot(): PlanSnapshot {
    const { values, policy, sweeps, backups, phase } = this
    return { values: values.slice(), policy: policy?.slice() ?? null, sweeps, backups, phase }
  }

  /** Goes back to a snapshot of the same method; what was before it is then unknown until the next sweep. */
  restore(snapshot: PlanSnapshot): void {
    // Into the tables there are: they may lie where the sweeps are made.
    this.values.set(snapshot.values)
    this.before.set(snapshot.values)
    this.policy = snapshot.policy?.slice() ?? null
    this.heldBefore = this.held
    this.sweeps = snapshot.sweeps
    this.backups = snapshot.backups
    this.backupsBefore = snapshot.backups
    this.phase = snapshot.phase
    this.change = Infinity
    this.bound = Infinity
    this.sequence = NOTHING
    this.logged = null
    this.status = this.refused ?? { outcome: 'running' }
    this.nextLook = FIRST_LOOK
    while (this.nextLook <= this.sweeps) this.nextLook *= 2
  }

  /** How many backups of a single action one entry of `sequence` takes. */
  costOf(entry: number): number {
    if (this.table) return 1
    const { rowStart } = this.model
    if (this.phase !== 'evaluate' || !this.policy) return rowStart[entry + 1] - rowStart[entry]
    let taken = 0
    for (let r = rowStart[entry]; r < rowStart[entry + 1]; r++) if (this.policy[r] > 0) taken++
    return taken
  }

  /**
   * The bound that `change` gives, and whether it is small enough: within tolerance, or as good as rounding allows.
   * @param policy   the policy the values are of; the greedy one when left out
   * @param changes  whether `change` is what the last sweep changed, or what another one would
   */
  protected isWithin(policy?: RowPolicy, changes: 'made' | 'left' = 'made'): boolean {
    const { discount, tolerance } = this.settings
    if (discount < 1) this.bound = (this.change * (changes === 'made' ? discount : 1)) / (1 - discount)
    else if (this.change === 0) this.bound = 0
    else if (this.change * this.stepsLeft <= tolerance) {
      this.stepsLeft = this.stepsUnder(policy)
      this.bound = this.change * this.stepsLeft
    } else this.bound = Infinity
    return this.bound <= tolerance || this.atRoundingFloor()
  }

  /** At discount 1, looks now and then whether some policy collects reward for ever. */
  protected lookForGains(): void {
    if (this.settings.discount < 1 || this.sweeps < this.nextLook) return
    while (this.nextLook <= this.sweeps) this.nextLook *= 2
    const states = this.gainingStates()
    if (states.length) this.status = { outcome: 'gains-for-ever', states }
  }

  /** True when the last sweep changed nothing but the last bit: more sweeps cannot help, `bound` says how good it is. */
  private atRoundingFloor(): boolean {
    if (this.change > 1e-6) return false
    let size = 0
    const { values } = this
    for (let s = 0; s < values.length; s++) if (Math.abs(values[s]) > size) size = Math.abs(values[s])
    return this.change <= 4e-16 * size
  }

  /**
   * The largest expected number of steps under a policy, of states that have one; the greedy one, whose ties go towards
   * an ending, must have one everywhere.
   */
  private stepsUnder(given?: RowPolicy): number {
    const policy = given ?? greedyPolicy(this.model.rowStart, actionValues(this.form, this.values))
    const counted = { ...this.model, outcomeReward: new Float64Array(this.model.outcomes).fill(1) }
    const steps = evaluatePolicy(counted, policy, 1, { tolerance: 1e-3 })
    return steps.outcome === 'solved' && (given !== undefined || steps.endless.length === 0)
      ? steps.values.reduce((most, value) => (value > most ? value : most), 1)
      : Infinity
  }

  /**
   * States the greedy policy never leaves while its backup gains in every one of them: there T v >= v + g with g > 0
   * under that policy, so its reward per step is at least g and no value is finite.
   */
  private gainingStates(): string[] {
    const { model } = this
    const rowValues = actionValues(this.form, this.values)
    const policy = greedyPolicy(model.rowStart, rowValues, 0)
    const steps = stepsToEnding(model, policy, true)
    const gains = Uint8Array.from(steps, (step, s) => {
      if (step >= 0) return 0
      let best = -Infinity
      for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++) best = Math.max(best, rowValues[r])
      return best - this.values[s] > 1e-9 ? 1 : 0
    })
    const leaves = (s: number) => {
      for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
        if (policy[r] > 0)
          for (let o = model.outcomeStart[r]; o < model.outcomeStart[r + 1]; o++)
            if (!gains[model.outcomeState[o]]) return true
      return false
    }
    for (let shrunk = true; shrunk;) {
      shrunk = false
      for (let s = 0; s < model.states; s++)
        if (gains[s] && leaves(s)) {
          gains[s] = 0
          shrunk = true
        }
    }
    return model.labels.filter((_, s) => gains[s])
  }
}

/** A sentence for a person about a plan that has no answer, or undefined when it has one. */
export function planProblem(status: PlanStatus): string | undefined {
  switch (status.outcome) {
    case 'never-ends':
      return `At discount 1 no value is finite: no action leads from ${listNames(status.states)} to an ending. Make an ending reachable, or use a discount below 1.`
    case 'improper':
      return `At discount 1 this policy has no value: from ${listNames(status.states)} it never comes to an ending. Use a discount below 1, or let a step cost something.`
    case 'gains-for-ever':
      return `At discount 1 no value is finite: among ${listNames(status.states)} reward can be collected for ever without ending. Make a step cost something, or use a discount below 1.`
    case 'too-large':
      return 'The equations of this policy are too large to be solved at once. Evaluate it by sweeps.'
    case 'budget-spent':
      return 'The limit on sweeps was reached before the values were within the tolerance. Raise the tolerance or the limit.'
    default:
      return undefined
  }
}
