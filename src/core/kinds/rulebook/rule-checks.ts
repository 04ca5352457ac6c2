import type { StoryStep } from '../../problem'
import type { CheckResult } from './facts'
import type { Program } from './program'
import type { StateNames } from './state-names'

/** A check that does not hold, by numbers. */
interface Breach {
  readonly state: number
  readonly choice: number
  readonly chances: string
}

/** Where the checks of a rulebook were broken first. */
export class RuleChecks {
  private readonly broken: (Breach | null)[]

  constructor(private readonly program: Program) {
    this.broken = program.checks.map(() => null)
  }

  /** Tries every check that still holds on something that happened. @param fallen  how chance fell, in words */
  look(frame: Float64Array, state: number, choice: number, fallen: () => string): void {
    const { checks } = this.program
    for (let k = 0; k < checks.length; k++)
      if (this.broken[k] === null && checks[k].value.run(frame) !== 1)
        this.broken[k] = { state, choice, chances: fallen() }
  }

  results(names: StateNames, pathTo: (state: number) => StoryStep[]): CheckResult[] {
    return this.program.checks.map(({ title, from, to }, k) => {
      const breach = this.broken[k]
      return {
        title,
        span: { from, to },
        broken: breach && {
          state: names.state(breach.state),
          action: names.choice(breach.choice),
          chances: breach.chances,
          path: pathTo(breach.state),
        },
      }
    })
  }
}
