import { REAL_CLOCK, type Clock } from './host'
import type { Learner } from '../core/learn/learner'
import { startValue } from '../core/model/model'
import { evaluatePolicy, SMALL_CHAIN } from '../core/plan/evaluate'

/** About how many marks a run gets, closer together at its beginning. */
const MARKS = 100
/** Finding them may take up to this share of the time, and so many milliseconds more. */
const SHARE = 0.35
const ALLOWANCE = 400

/** The exact value of the learned policy from the start, computed after certain episodes as a run goes on. */
export class ExactMarks {
  readonly episode: number[] = []
  readonly value: number[] = []
  /** [tableRows] the policies they are of, where somebody may want to see the way that was gone */
  readonly policies: Float64Array[] = []
  /** The episode after which to ask again. */
  next = Infinity
  private readonly stride: number
  private values: Float64Array | undefined
  private readonly began: number
  private spent = 0
  /** What was found last, and at which step. */
  private knownAt = -Infinity
  private known: { readonly step: number; readonly value: number | null } | undefined

  constructor(
    learner: Learner,
    private readonly mostStates: number,
    private readonly clock: Clock = REAL_CLOCK,
    private readonly keepsPolicies = false,
  ) {
    this.began = clock.now()
    this.stride = Math.ceil(learner.settings.episodes / MARKS)
    if (learner.world.model.states <= mostStates) this.next = Math.max(1, learner.log.count)
  }

  /** Notes the value now, if time allows, and says when to ask again. */
  add(learner: Learner): void {
    const { count } = learner.log
    this.next = count + Math.min(this.stride, Math.max(1, Math.floor(count * 0.15)))
    if (this.spent <= SHARE * (this.clock.now() - this.began) + ALLOWANCE) this.note(learner)
  }

  /** Notes the value now, however long that takes: where a run ends the curve of exact values ends, too. */
  note(learner: Learner): void {
    const { count } = learner.log
    const value = this.now(learner)
    if (value === null || (this.episode.at(-1) ?? 0) >= count) return
    this.episode.push(count)
    this.value.push(value)
    if (this.keepsPolicies) this.policies.push(learner.policy())
  }

  /** Finds the exact value anew when it was found so many milliseconds ago. */
  refresh(learner: Learner, pause: number): void {
    if (this.clock.now() - this.knownAt >= pause) this.now(learner)
  }

  /** The exact value that was found last; null where there is none yet. */
  get latest(): number | null {
    return this.known?.value ?? null
  }

  /** The exact value at this moment; null where there is none, or the model is too large. */
  now(learner: Learner): number | null {
    const { world, settings, steps } = learner
    const { model } = world
    if (model.states > this.mostStates) return null
    if (this.known?.step === steps) return this.known.value
    const started = this.clock.now()
    const result = evaluatePolicy(
      model,
      world.toModelRows(learner.policy()),
      settings.discount,
      // Large ones begin where the mark before ended.
      model.states > SMALL_CHAIN
        ? { initial: this.values ?? new Float64Array(model.states), tolerance: 1e-6 }
        : {},
    )
    this.spent += this.clock.now() - started
    this.values = result.outcome === 'solved' ? result.values : undefined
    this.knownAt = this.clock.now()
    this.known = { step: steps, value: this.values ? startValue(model, this.values) : null }
    return this.known.value
  }

  /** [states] the exact values found last; undefined where there are none */
  get exactValues(): Float64Array | undefined {
    return this.values
  }
}
