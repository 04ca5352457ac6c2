import { checkEnvironmentModel } from '../check/check'
import type { CheckReport } from '../check/finding'
import { searchFrom, type Search } from '../check/search'
import type { CheckRuleId } from '../check/rule-ids'
import { memorylessValue } from '../check/rules/states'
import { inspectionOf } from '../kinds/inspections'
import { exactGradient } from '../learn/gradient-truth'
import { createLearner } from '../learn/methods/learners'
import type { Learner } from '../learn/learner'
import { learnMethod } from '../learn/methods/methods'
import type { LearnMethod } from '../learn/methods/method'
import type { World } from '../learn/world'
import type { Model, RowPolicy } from '../model/model'
import { actionValues, backupForm } from '../plan/backup'
import { randomPolicy } from '../plan/evaluate'
import { solveOptimum, type Optimum } from '../plan/solve'
import { settingsOf, type LearnChoice } from '../settings/choice'
import { exactEpisodes, goalSteps, type ExactEpisodes } from '../evaluate/exact-episodes'
import type { Yardstick } from './finding'
import type { Problem } from './problem'
import type { RunEvidence } from './run-evidence'

/** A step of the way that an optimal policy most likely goes. */
export interface WayStep {
  readonly state: number
  /** The best action there that is taken: a row of the model, and of the table. */
  readonly row: number
  readonly tableRow: number
}

/** Steps of the way that are looked at. */
const WAY = 500

/** What rules look at; what takes its time is worked out once, when the first one asks for it. */
export class DiagnosisContext {
  readonly world: World
  readonly model: Model
  readonly method: LearnMethod
  readonly goal: Uint8Array | null
  private readonly known = new Map<string, unknown>()

  constructor(
    /** What is known of it is shared by all runs that meet it. */
    private readonly problem: Problem,
    readonly choice: LearnChoice,
    readonly evidence: RunEvidence,
  ) {
    this.world = problem.world
    this.model = problem.compiled.model
    this.method = learnMethod(choice.method)
    this.goal = goalSteps(this.model)
  }

  /** Null where no value is finite. */
  get optimum(): Optimum | null {
    return this.optimumAt(this.choice.discount)
  }

  optimumAt(discount: number): Optimum | null {
    return this.problem.once(`optimum ${discount}`, () => solveOptimum(this.model, discount))
  }

  /** What episodes come to under the policy that is optimal at the discount of the run. */
  get bestEpisodes(): ExactEpisodes | null {
    return this.problem.once('best', () => this.optimum && this.episodesUnder(this.optimum.policy))
  }

  /** Under the policy that was learned, and under what the agent does at the end of the run. */
  get learnedEpisodes(): ExactEpisodes {
    return this.once('learned', () => this.episodesUnder(this.learnedPolicy))
  }

  get actingEpisodes(): ExactEpisodes {
    return this.once('acting', () => this.episodesUnder(this.actingPolicy))
  }

  get randomEpisodes(): ExactEpisodes {
    return this.problem.once('random', () => this.episodesUnder(randomPolicy(this.model)))
  }

  /** As an agent acts that has learned nothing yet. */
  get firstEpisodes(): ExactEpisodes {
    return this.problem.once('first', () => {
      return this.episodesUnder(this.world.toModelRows(this.freshLearner().behaviour()))
    })
  }

  private freshLearner(): Learner {
    const { choice, world } = this
    return createLearner(choice.method, world, { ...settingsOf(choice, () => null), episodes: 1 })
  }

  /** [rows] */
  get learnedPolicy(): RowPolicy {
    return this.once('learned policy', () => this.world.toModelRows(this.evidence.learner.policy()))
  }

  get actingPolicy(): RowPolicy {
    return this.once('acting policy', () => this.world.toModelRows(this.evidence.learner.behaviour()))
  }

  episodesUnder(
    policy: RowPolicy,
    { discount, cap }: { discount: number; cap: number } = this.choice,
  ): ExactEpisodes {
    return exactEpisodes(this.model, policy, discount, cap, this.goal)
  }

  /** How much the best policy that acts on what the agent sees is better than the learned one. */
  get missing(): number {
    return this.missingOf('policy')
  }

  missingOf(of: Yardstick): number {
    const { bestEpisodes, learnedEpisodes, actingEpisodes } = this
    if (!bestEpisodes) return 0
    return bestEpisodes.value - this.blindness - (of === 'policy' ? learnedEpisodes : actingEpisodes).value
  }

  /** What no policy can reach that acts on what the agent sees alone; 0 where it sees the states. */
  get blindness(): number {
    return this.problem.once('blindness', () => {
      const { model, optimum, choice, search } = this
      if (!optimum || model.observations === model.states) return 0
      const seen = memorylessValue({ model, discount: choice.discount, optimum, search })
      return seen === undefined || seen === null ? 0 : Math.max(0, optimum.start - seen)
    })
  }

  /** What values differ by here: between the best policy and a random one. At least a little. */
  get scale(): number {
    const best = this.bestEpisodes?.value ?? 0
    return Math.max(Math.abs(best - this.randomEpisodes.value), Math.abs(best) / 20, 1e-9)
  }

  /** Whether what was learned is clearly worse than the best. */
  get poor(): boolean {
    return this.missing > POOR * this.scale
  }

  get search(): Search {
    return this.problem.once('search', () => searchFrom(this.model))
  }

  /** Steps of the shortest way to what the agent is after; -1 where there is none. */
  get shortest(): number {
    return this.problem.once('shortest', () => {
      const { model, goal, search } = this
      let least = -1
      for (let s = 0; goal && s < model.states; s++) {
        if (search.steps[s] < 0 || (least >= 0 && search.steps[s] + 1 >= least)) continue
        for (
          let o = model.outcomeStart[model.rowStart[s]];
          o < model.outcomeStart[model.rowStart[s + 1]];
          o++
        )
          if (goal[o]) least = search.steps[s] + 1
      }
      return least
    })
  }

  get check(): CheckReport {
    return this.problem.once('check', () =>
      checkEnvironmentModel(this.problem.document, this.problem.compiled),
    )
  }

  /** [rows] how often an action was taken in the run, of states that look alike together; see `World.toModelRows` */
  get rowVisits(): Float64Array {
    return this.once('row visits', () => this.world.toModelRows(this.evidence.learner.visits))
  }

  /** [rows] the chance that another action is carried out than the one that was chosen */
  get chanceOfOther(): Float64Array {
    return this.problem.once('other', () => {
      const { document, compiled } = this.problem
      const happenings = inspectionOf(document).happenings(document, compiled)
      return Float64Array.from({ length: this.model.rows }, (_, r) =>
        happenings(r).reduce((sum, way) => sum + (way.instead === null ? 0 : way.probability), 0),
      )
    })
  }

  /** [tableRows] the exact gradient of the learned policy by its preferences; null where it has no finite value. */
  get gradient(): Float64Array | null {
    return this.once('gradient', () => this.gradientAt(this.evidence.learner.policy()))
  }

  /** [tableRows] that with which learning began */
  get firstGradient(): Float64Array | null {
    return this.problem.once('first gradient', () => this.gradientAt(this.freshLearner().policy()))
  }

  private gradientAt(policy: Float64Array): Float64Array | null {
    const { discount, temperature } = this.choice
    return exactGradient(this.world, policy, discount, temperature)?.gradient ?? null
  }

  /** What Check says by one of its rules. */
  checked(rule: CheckRuleId): CheckReport['findings'] {
    return this.check.findings.filter((finding) => finding.rule === rule)
  }

  /** [rows] the value of each action under the optimal policy */
  get bestActionValues(): Float64Array | null {
    const { optimum, model, choice } = this
    return this.problem.once(
      'action values',
      () => optimum && actionValues(backupForm(model, choice.discount), optimum.values),
    )
  }

  /** The states that an optimal policy most likely comes through, from the likeliest start. */
  get way(): readonly WayStep[] {
    return this.problem.once('way', () => {
      const { model, optimum, world } = this
      const steps: WayStep[] = []
      if (!optimum) return steps
      let state = model.startState[indexOfMost(model.startProbability, 0, model.startProbability.length)]
      const seen = new Set<number>()
      while (!model.ending[state] && !seen.has(state) && steps.length < WAY) {
        seen.add(state)
        const row = indexOfMost(optimum.policy, model.rowStart[state], model.rowStart[state + 1])
        const tableRow = world.tableStart[model.observation[state]] + row - model.rowStart[state]
        steps.push({ state, row, tableRow })
        state =
          model.outcomeState[
            indexOfMost(model.outcomeProbability, model.outcomeStart[row], model.outcomeStart[row + 1])
          ]
      }
      return steps
    })
  }

  /** Whether what happens in a state depends on chance anywhere on the way of an episode. */
  get chancy(): boolean {
    return this.problem.once('chancy', () => {
      const { model, search } = this
      for (let s = 0; s < model.states; s++)
        if (search.steps[s] >= 0)
          for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
            if (model.outcomeStart[r + 1] - model.outcomeStart[r] > 1) return true
      return false
    })
  }

  /** What the bonuses of the environment do to the best policy; null where they do nothing to it. */
  get bent(): { readonly here: number; readonly best: number; readonly states: number[] } | null {
    return this.problem.once('bent', () => {
      const { problem, optimum, choice, scale } = this
      const { document } = problem
      const plain = inspectionOf(document).withoutBonuses(document)
      const best = plain && solveOptimum(plain, choice.discount)
      if (!optimum || !best) return null
      const worth = (policy: RowPolicy) =>
        exactEpisodes(plain, policy, choice.discount, choice.cap, this.goal).value
      const [here, there] = [worth(optimum.policy), worth(best.policy)]
      if (there - here <= POOR * scale) return null
      const states = this.way.filter(({ row }) => best.ties[row] === 0).map(({ state }) => state)
      return { here, best: there, states }
    })
  }

  private once<T>(name: string, work: () => T): T {
    if (!this.known.has(name)) this.known.set(name, work())
    return this.known.get(name) as T
  }
}

/** The part of the scale that may be missing before something counts as wrong. */
export const POOR = 0.05

function indexOfMost(numbers: ArrayLike<number>, from: number, end: number): number {
  let most = from
  for (let i = from + 1; i < end; i++) if (numbers[i] > numbers[most]) most = i
  return most
}
