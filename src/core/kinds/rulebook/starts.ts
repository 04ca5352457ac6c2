import type { RuleMachine } from './machine'
import { RuleFault } from './place'
import type { Program, StartRule } from './program'
import type { StateIndex } from './state-index'

/** Outcomes looked at while the starts are scrambled. */
const SCRAMBLE_BUDGET = 3_000_000

/** Combinations of drawn values at the most. */
const START_LIMIT = 100_000

/** The start distribution: every start line spread over its draws, and scrambled where it says so. */
export class Starts {
  private seen = 0

  constructor(
    private readonly machine: RuleMachine,
    private readonly states: StateIndex,
    private readonly program: Program,
    /** Outcomes to be looked at while scrambling, at the most. */
    private readonly budget: number,
  ) {}

  spread(): { state: number; weight: number }[] {
    const total = new Map<number, number>()
    for (const start of this.program.starts) {
      let codes = this.codesOf(start)
      for (let i = 0; i < start.scramble; i++) codes = this.scrambled(codes, start)
      for (const [code, weight] of codes) add(total, code, weight * start.weight)
    }
    return [...total].map(([code, weight]) => ({ state: this.states.add(code), weight }))
  }

  private codesOf(start: StartRule): Map<number, number> {
    const { machine } = this
    // The rules that settle where a value belongs are those of a step: the frame is set as if one led here.
    let partial: { frame: Float64Array; weight: number }[] = [
      { frame: new Float64Array(machine.frame.length), weight: 1 },
    ]
    for (const { slot, values, chances } of start.parts) {
      if (partial.length * values.length > START_LIMIT)
        throw new RuleFault({
          ...start,
          cause: `There are more than ${START_LIMIT} starts.`,
          remedy: 'Draw fewer variables.',
        })
      partial = partial.flatMap(({ frame, weight }) =>
        values.map((value, i) => {
          const copy = frame.slice()
          copy[slot] = value
          return { frame: copy, weight: weight * chances[i] }
        }),
      )
    }
    const codes = new Map<number, number>()
    for (const { frame, weight } of partial) {
      for (const { slot, nextSlot } of machine.dimensions) machine.frame[nextSlot] = frame[slot]
      machine.arriveAt(start, (code, now) => add(codes, code, weight * now[0]))
    }
    return codes
  }

  /** One random action, each possible one as likely; nothing ends meanwhile. */
  private scrambled(codes: ReadonlyMap<number, number>, start: StartRule): Map<number, number> {
    const { machine, program } = this
    const next = new Map<number, number>()
    machine.endless = true
    for (const [code, weight] of codes) {
      machine.load(code)
      const possible = program.choices.filter((choice) => {
        machine.choose(choice)
        return machine.possible(choice)
      })
      if (!possible.length) add(next, code, weight)
      for (const choice of possible) {
        machine.choose(choice)
        machine.run(
          {
            outcome: (to, now) => {
              if (++this.seen > Math.min(this.budget, SCRAMBLE_BUDGET))
                throw new RuleFault({
                  ...start,
                  cause: 'Scrambling the start looks at too many outcomes.',
                  remedy: 'Use fewer random actions.',
                })
              add(next, to, (weight * now[0]) / possible.length)
            },
            happened: () => {},
          },
          'fault',
        )
      }
    }
    machine.endless = false
    return next
  }
}

function add(map: Map<number, number>, key: number, weight: number): void {
  map.set(key, (map.get(key) ?? 0) + weight)
}
