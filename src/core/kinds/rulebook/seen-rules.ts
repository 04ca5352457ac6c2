import type { RuleNote } from './facts'
import type { LineMap, Span } from './place'
import type { Program } from './program'

/** Which rules have come up at least once: what never does is noted in the end. */
export class SeenRules {
  private readonly possible: Uint8Array
  private readonly ending: Uint8Array
  private readonly endAfter: Uint8Array

  constructor(private readonly program: Program) {
    this.possible = new Uint8Array(program.choices.length)
    this.ending = new Uint8Array(program.endings.length)
    this.endAfter = new Uint8Array(program.endsAfter.length)
  }

  choices(possible: readonly boolean[]): void {
    possible.forEach((can, c) => {
      if (can) this.possible[c] = 1
    })
  }

  endedAfter(k: number): void {
    this.endAfter[k] = 1
  }

  /** Whether an episode ends in the state that is loaded; all conditions are tried until each has held once. */
  ends(frame: Float64Array): boolean {
    const { endings } = this.program
    let ends = false
    for (let k = 0; k < endings.length; k++) {
      if (ends && this.ending[k]) continue
      if (endings[k].condition.run(frame) !== 1) continue
      this.ending[k] = 1
      ends = true
    }
    return ends
  }

  /** Actions that are possible nowhere, and endings that never come. */
  notes(lines: LineMap): RuleNote[] {
    const { program } = this
    const notes: RuleNote[] = []
    program.groups.forEach((name, group) => {
      if (program.choices.some((choice, c) => choice.group === group && this.possible[c])) return
      notes.push({
        rule: 'never-possible',
        about: program.choices.filter((choice) => choice.group === group).map(({ label }) => label),
        ...lines.problem({
          ...program.groupSpans[group],
          cause: `The action ${name} is possible in no state that can be reached.`,
          remedy: 'Look at its “when”, or leave it out.',
        }),
      })
    })
    const never = (span: Span) =>
      notes.push({
        rule: 'never-ends',
        ...lines.problem({
          ...span,
          cause: 'This holds in nothing that can happen, so that no episode ends here.',
          remedy: 'Look at the condition, or leave the line out.',
        }),
      })
    program.endings.forEach(({ span }, k) => this.ending[k] || never(span))
    program.endsAfter.forEach(({ from, to }, k) => this.endAfter[k] || never({ from, to }))
    return notes
  }
}
