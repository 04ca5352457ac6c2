import type { StoryStep } from '../../problem'
import type { RuleMachine } from './machine'
import type { Offers } from './offers'
import type { StateIndex } from './state-index'
import type { StateNames } from './state-names'

/** Steps of a way that is told, at the most. */
const LONGEST = 10_000

/** From where each state was met first: as states are met breadth first, the shortest way there. */
export class Ways {
  /** [states] the state and the choice from which a state was met first; -1 for starts */
  private parent: Int32Array<ArrayBuffer> = new Int32Array(1024)
  private parentChoice: Int32Array<ArrayBuffer> = new Int32Array(1024)

  constructor(
    private readonly machine: RuleMachine,
    private readonly offers: Offers,
    private readonly states: StateIndex,
    private readonly names: StateNames,
  ) {}

  met(state: number, parent: number, choice: number): void {
    if (state >= this.parent.length) {
      const length = 2 * this.parent.length
      this.parent = copied(this.parent, length)
      this.parentChoice = copied(this.parentChoice, length)
    }
    this.parent[state] = parent
    this.parentChoice[state] = choice
  }

  /** The shortest way from a start to a state. Works the machine: not while a step is at hand. */
  to(state: number): StoryStep[] {
    const path: StoryStep[] = []
    for (let s = state; this.parent[s] >= 0 && path.length < LONGEST; s = this.parent[s])
      path.push({
        state: this.names.state(this.parent[s]),
        action: this.names.choice(this.parentChoice[s]),
        chances: this.fallen(s),
      })
    return path.reverse()
  }

  /** How chance fell in the step in which a state was met first: that step is worked out again. */
  private fallen(state: number): string {
    const { machine, offers, parent, parentChoice, states } = this
    const choice = parentChoice[state]
    machine.load(states.codes[parent[state]])
    const possible = choice < 0 ? [] : offers.possible()
    machine.choose(choice < 0 ? null : offers.carriedOut(choice, possible))
    let fallen: string | undefined
    machine.run(
      {
        outcome: (code, now) => {
          if (now[0] > 0 && code === states.codes[state]) fallen ??= machine.fallen()
        },
        happened: () => {},
      },
      'hold',
    )
    return fallen ?? ''
  }
}

function copied(from: Int32Array, length: number): Int32Array<ArrayBuffer> {
  const to = new Int32Array(length)
  to.set(from)
  return to
}
