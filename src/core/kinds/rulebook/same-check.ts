import type { RuleMachine } from './machine'
import type { Offers } from './offers'
import { RuleFault } from './place'
import type { Program } from './program'

/** So many states are tried, and after them every so many-th one. */
const FIRST = 300
const THEN_EVERY = 50

/**
 * Tries whether items that are said to be interchangeable are: with two of them exchanged, a state must end or pass as before, and its
 * actions, in whatever order, must pay and measure the same and lead to the same states.
 */
export class SameCheck {
  constructor(
    private readonly machine: RuleMachine,
    private readonly program: Program,
    private readonly offers: Offers,
  ) {}

  /** @throws RuleFault where exchanging two items makes a difference */
  look(state: number, code: number): void {
    const { machine, program } = this
    if (!program.same.length || (state >= FIRST && state % THEN_EVERY !== 0)) return
    const told = this.said(code)
    for (const same of program.same)
      for (let i = 0; i + 1 < same.items.length; i++) {
        const exchanged = machine.order.exchanged(code, same, i)
        if (exchanged === code || this.said(exchanged) === told) continue
        throw new RuleFault({
          ...same,
          cause: `The items of ${same.names.join(' and ')} are not interchangeable: exchanging items ${i + 1} and ${i + 2} changes what actions pay or where they lead.`,
          remedy: 'Leave the line out, or let nothing depend on where an item stands in its list.',
        })
      }
    machine.load(code)
  }

  /** All that can happen in a state, as a text that does not depend on the order of actions. */
  private said(code: number): string {
    const { machine, program, offers } = this
    const { frame } = machine
    machine.load(code)
    if (program.endings.some(({ condition }) => condition.run(frame) === 1)) return 'ends'
    if (program.pass && program.pass.condition.run(frame) === 1) {
      machine.choose(null)
      return `passes ${this.outcomes()}`
    }
    const possible = offers.possible()
    const rows = program.choices.flatMap((_, c) => {
      if (!possible[c] && program.treatment === 'forbidden') return []
      machine.choose(offers.carriedOut(c, possible))
      const penalty = !possible[c] && program.penalty ? program.penalty.run(frame) : 0
      return [`${rounded(penalty)} off: ${this.outcomes()}`]
    })
    return rows.sort().join('; ')
  }

  private outcomes(): string {
    const { machine } = this
    const { measures } = this.program
    const sums = new Map<number, [probability: number, reward: number, kept: number]>()
    const measured = measures.map(() => 0)
    machine.run(
      {
        happened: (now) =>
          measures.forEach(({ value }, m) => (measured[m] += now[0] * value.run(machine.frame))),
        outcome: (code, now) => {
          const sum = sums.get(code) ?? [0, 0, 0]
          sum[0] += now[0]
          sum[1] += now[0] * now[1]
          sum[2] += now[0] * now[2]
          sums.set(code, sum)
        },
      },
      'hold',
    )
    const outcomes = [...sums]
      .filter(([, [probability]]) => probability > 0)
      .map(([code, numbers]) => `${code} ${numbers.map(rounded).join(' ')}`)
    return [...outcomes.sort(), ...measured.map(rounded)].join(', ')
  }
}

/** Sums that were added up in another order are the same. */
function rounded(x: number): number {
  return Number(x.toPrecision(9))
}
