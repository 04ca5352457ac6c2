import type { Model } from '../../model/model'
import type { WrittenPolicy } from '../kind'
import type { RuleNote } from './facts'
import { partDistance } from './offers'
import type { LineMap } from './place'
import type { Program } from './program'

/** What the policies of a rulebook choose, state by state. */
export class WrittenPolicies {
  /** [policies][states] the choice taken; -1 for none */
  private readonly taken: number[][]
  /** [policies] the first state in which a policy says nothing possible */
  private readonly silent: (number | undefined)[]

  constructor(private readonly program: Program) {
    this.taken = program.policies.map(() => [])
    this.silent = program.policies.map(() => undefined)
  }

  /** For a state in which there is nothing to choose. */
  pass(): void {
    for (const choices of this.taken) choices.push(-1)
  }

  /** @param frame  of the state that is loaded */
  choose(state: number, frame: Float64Array, possible: readonly boolean[]): void {
    this.taken.forEach((taken, p) => {
      const choice = this.choiceOf(p, frame, possible)
      if (choice < 0) this.silent[p] ??= state
      taken.push(choice)
    })
  }

  private choiceOf(p: number, frame: Float64Array, possible: readonly boolean[]): number {
    const { choices, policies, treatment } = this.program
    for (const { group, wanted, when } of policies[p].choices) {
      if (when && when.run(frame) !== 1) continue
      const asked = wanted.map(({ part, value }) => ({ part, value: value.run(frame) }))
      let best = -1
      let least = Infinity
      for (let c = 0; c < choices.length; c++) {
        const choice = choices[c]
        if (choice.group !== group || !(possible[c] || treatment !== 'forbidden')) continue
        const distance = asked.reduce(
          (sum, { part, value }) => sum + partDistance(choice.parts[part], value),
          0,
        )
        if (distance < least) {
          least = distance
          best = c
        }
      }
      if (best >= 0) return best
    }
    return -1
  }

  /**
   * Those that say something for every state, by the rows of the model; the others are noted.
   * @param order  the states of the model, by their numbers here
   */
  finish(
    model: Model,
    order: Int32Array,
    lines: LineMap,
    nameOf: (state: number) => string,
  ): { policies: WrittenPolicy[]; notes: RuleNote[] } {
    const notes: RuleNote[] = []
    const policies = this.program.policies.flatMap((rule, p) => {
      const silent = this.silent[p]
      if (silent !== undefined) {
        notes.push({
          rule: 'policy',
          ...lines.problem({
            ...rule,
            cause: `The policy “${rule.title}” says nothing possible for the state ${nameOf(silent)}.`,
            remedy: 'End it with an action that is always possible, without “when”.',
          }),
        })
        return []
      }
      const policy = new Float64Array(model.rows)
      order.forEach((s, i) => {
        for (let r = model.rowStart[i]; r < model.rowStart[i + 1]; r++)
          if (model.rowAction[r] === this.taken[p][s]) policy[r] = 1
      })
      return [{ title: rule.title, policy }]
    })
    return { policies, notes }
  }
}
