import { cellName } from '../src/core/kinds/grid/cells'
import { compileGrid } from '../src/core/kinds/grid/compile'
import { PLAIN_GRID, type Grid } from '../src/core/kinds/grid/document'
import { ModelBuilder } from '../src/core/model/builder'
import type { Model } from '../src/core/model/model'
import { RandomStream } from '../src/core/random/generator'
import type { RulebookDocument } from '../src/core/kinds/rulebook/document'

/**
 * A square grid: moves go straight with 0.8 and to either side with 0.1, every ninth cell is an ending, episodes
 * start anywhere and are cut off after 200 steps.
 * @param states about how many cells; the side is rounded
 */
export function gridBench(states: number): Model {
  return compileGrid(gridBenchDocument(states), 200).model
}

/** The same as a document. */
export function gridBenchDocument(states: number): Grid {
  const side = Math.max(2, Math.round(Math.sqrt(states)))
  const endings = []
  for (let cell = 4; cell < side * side; cell += 9)
    endings.push({ at: cellName(cell % side, Math.floor(cell / side)), reward: cell % 2 ? 1 : -1, name: '' })
  const floor = Array.from({ length: side }, () => '.'.repeat(side))
  return { ...PLAIN_GRID, floor, endings, stepReward: -0.04, veer: 0.2 }
}

/** A business-like model: 1 to 10 actions a state, each with 20 outcomes near by; every fiftieth state is an ending. */
export function businessBench(states: number): Model {
  const random = new RandomStream(1, 'environment')
  const builder = new ModelBuilder()
  for (let s = 0; s < states; s++) builder.state(`s${s}`)
  const isEnding = (s: number) => s % 50 === 49
  for (let s = 0; s < states; s++) {
    if (isEnding(s)) continue
    for (let a = 1 + random.below(10); a > 0; a--) {
      const row = builder.newRow(s, builder.action(`a${a}`))
      const weights = Array.from({ length: 20 }, () => 0.05 + random.uniform())
      const total = weights.reduce((sum, weight) => sum + weight, 0)
      for (const weight of weights)
        builder.outcome(row, (s + 1 + random.below(200)) % states, weight / total, random.uniform() - 0.4)
    }
  }
  return builder.build({ starts: [{ state: 0, weight: 1 }], cap: 200 })
}

/** A rulebook of three variables, five actions a state with six ways in which chance can fall. */
export function rulebookBench(states: number): RulebookDocument {
  const side = Math.max(2, Math.round(Math.sqrt(states / 20)))
  const text = `state a from 0 to ${side - 1}
state b from 0 to ${side - 1}
state c from 0 to 19
start a = 0, b = 0, c = 10
action push in 1, 2, 3, 4, 5
chance d ~ binomial(5, 0.4)
reward -abs(a - b) - c * 0.1 + push * 0.01
next a = (a + d) mod ${side}
next b = (b + push + d) mod ${side}
next c = within(c + d - push + 1, 0, 19)
`
  return { text, knobs: {}, view: { across: null, up: null, others: {} } }
}
