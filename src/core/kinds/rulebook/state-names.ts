import type { StateSpace } from '../../model/space'
import type { RuleMachine } from './machine'
import { RuleFault } from './place'
import type { Program } from './program'
import type { StateIndex } from './state-index'

/** How the states and choices of a rulebook are called, and where states lie in the space of the variables. */
export class StateNames {
  constructor(
    private readonly machine: RuleMachine,
    private readonly program: Program,
    private readonly states: StateIndex,
    /** Codes from here on are the ways to end after a step. */
    private readonly combinations: number,
  ) {}

  state(state: number): string {
    const code = this.states.codes[state]
    if (code >= this.combinations) return this.program.endsAfter[code - this.combinations].title
    let label = ''
    let d = 0
    for (const variable of this.program.variables) {
      label += label ? `, ${variable.name}` : variable.name
      for (const { texts } of variable.dimensions) label += ` ${texts[this.machine.indexIn(code, d++)]}`
    }
    return label
  }

  choice(choice: number): string {
    return choice < 0 ? 'passes by itself' : this.program.choices[choice].label
  }

  /**
   * An ending is named by its line, and must not have the name of a state.
   * @param isMet  whether a way to end has come up
   */
  refuseSame(labels: readonly string[], isMet: (ending: number) => boolean): void {
    const { endsAfter } = this.program
    if (!endsAfter.length) return
    const names = new Map(endsAfter.map(({ title }) => [title, 0]))
    for (const label of labels) if (names.has(label)) names.set(label, names.get(label)! + 1)
    const same = endsAfter.find(({ title }, k) => isMet(k) && names.get(title)! > 1)
    if (same)
      throw new RuleFault({
        ...same,
        cause: `The ending “${same.title}” has the name of a state.`,
        remedy: 'Give the ending another name, in quotes at the end of its line.',
      })
  }

  /** @param order  the states of the model, by their numbers here */
  space(order: Int32Array): StateSpace {
    const { dimensions } = this.machine
    const index = new Int32Array(order.length * dimensions.length)
    order.forEach((s, i) => {
      const code = this.states.codes[s]
      for (let d = 0; d < dimensions.length; d++)
        index[i * dimensions.length + d] = code >= this.combinations ? -1 : this.machine.indexIn(code, d)
    })
    return {
      axes: dimensions.map(({ name, texts, kind }) => ({
        name,
        texts,
        numeric: kind === 'whole' || kind === 'buckets',
      })),
      index,
    }
  }
}
