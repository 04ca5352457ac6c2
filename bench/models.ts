import { cellName } from '../src/core/kinds/grid/cells'
import { compileGrid } from '../src/core/kinds/grid/compile'
import { PLAIN_GRID, type Grid } from '../src/core/kinds/grid/document'
import type { RulebookDocument } from '../src/core/kinds/rulebook/document'
import { finishModel } from '../src/core/model/builder'
import type { Model } from '../src/core/model/model'

/** Steps after which an episode of a bench's model is cut off. */
const CAP = 200
/** How likely a move goes straight, or turns left or right, and by how many quarters it turns then. */
const MOVES = [
  { chance: 0.8, turn: 0 },
  { chance: 0.1, turn: 3 },
  { chance: 0.1, turn: 1 },
] as const
/** In the order up, right, down, left. */
const ACROSS = [0, 1, 0, -1]
const DOWN = [-1, 0, 1, 0]
/** Orders a state of the business can place, and amounts that may be asked for. */
const ORDERS = 10
const DEMANDS = 20

/** The models of the bench, which a program in another language builds as well: see `modelSums`. */
export const BENCH_MODELS = { grid: gridBench, business: businessBench, endings: endingsBench } as const
export type BenchModel = keyof typeof BENCH_MODELS

/**
 * A square grid: moves go straight with 0.8 and to either side with 0.1, about every ninth cell is a wall, episodes start in
 * the first cell and end in the last one, which pays 1; every other step costs 0.01. Walls and the ending have rows as well,
 * which nobody takes, and outcomes that lead to the same cell are kept apart: 4 rows a state, 3 outcomes a row.
 * @param states about how many cells; the side is rounded
 */
export function gridBench(states: number): Model {
  const side = Math.max(2, Math.round(Math.sqrt(states)))
  const cells = side * side
  const wall = Uint8Array.from({ length: cells }, (_, i) =>
    i > 0 && i < cells - 1 && (Math.imul(i, 2654435761) >>> 16) % 9 === 0 ? 1 : 0,
  )
  const next = (cell: number, way: number) => {
    const [x, y] = [(cell % side) + ACROSS[way], Math.floor(cell / side) + DOWN[way]]
    return x < 0 || x >= side || y < 0 || y >= side || wall[y * side + x] ? cell : y * side + x
  }
  const model = modelOf(cells, (s) =>
    ACROSS.map((_, action) =>
      MOVES.map(({ chance, turn }) => {
        const to = next(s, (action + turn) % 4)
        return { to, chance, reward: to === cells - 1 ? 1 : -0.01 }
      }),
    ),
  )
  model.ending.set(wall)
  model.ending[cells - 1] = 1
  return model
}

/**
 * A store of up to `states` - 1 goods that is filled up: 10 orders a state (fewer where the store would run over), each with 20 amounts that
 * may be asked for. What is sold pays 2, an order costs, and so does what is left. No state is an ending.
 */
export function businessBench(states: number): Model {
  const lot = Math.max(1, states >> 6)
  const weights = Array.from({ length: DEMANDS }, (_, k) => (k + 1) * (DEMANDS - k))
  const total = weights.reduce((sum, weight) => sum + weight, 0)
  return modelOf(states, (s) =>
    Array.from({ length: Math.min(ORDERS, Math.floor((states - 1 - s) / lot) + 1) }, (_, order) =>
      weights.map((weight, k) => {
        const there = s + order * lot
        const to = Math.max(0, there - Math.floor((k * lot * 3) / 4))
        // An order costs half a lot besides its goods, in whole goods.
        const cost = order * lot + (order ? lot >> 1 : 0)
        return { to, chance: weight / total, reward: (2 * (there - to) - cost - 0.05 * to) / lot }
      }),
    ),
  )
}

/** A grid of the product with an ending every ninth cell, in which episodes start anywhere. */
export function endingsBench(states: number): Model {
  return compileGrid(endingsBenchDocument(states), CAP).model
}

/** The same as a document. */
export function endingsBenchDocument(states: number): Grid {
  const side = Math.max(2, Math.round(Math.sqrt(states)))
  const endings = []
  for (let cell = 4; cell < side * side; cell += 9)
    endings.push({ at: cellName(cell % side, Math.floor(cell / side)), reward: cell % 2 ? 1 : -1, name: '' })
  const floor = Array.from({ length: side }, () => '.'.repeat(side))
  return { ...PLAIN_GRID, floor, endings, stepReward: -0.04, veer: 0.2 }
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

/** Counts and sums over the outcomes of a model, by which two programs see that they measure the same work. */
export interface ModelSums {
  readonly states: number
  readonly endings: number
  readonly rows: number
  readonly outcomes: number
  /** The sum over outcomes i of probability x (i mod 7 + 1). */
  readonly probabilities: number
  /** The sum of probability x reward x (i mod 5 + 1). */
  readonly rewards: number
  /** The sum of next state x (i mod 97). */
  readonly successors: number
}

export function modelSums(model: Model): ModelSums {
  const { states, rows, outcomes, outcomeProbability, outcomeReward, outcomeState } = model
  let [probabilities, rewards, successors] = [0, 0, 0]
  for (let i = 0; i < outcomes; i++) {
    probabilities += outcomeProbability[i] * ((i % 7) + 1)
    rewards += outcomeProbability[i] * outcomeReward[i] * ((i % 5) + 1)
    successors += outcomeState[i] * (i % 97)
  }
  const endings = model.ending.reduce((sum, ending) => sum + ending, 0)
  return { states, endings, rows, outcomes, probabilities, rewards, successors }
}

/** One way in which an action can end. */
interface Outcome {
  readonly to: number
  readonly chance: number
  readonly reward: number
}

/** A model from the outcomes of each state's actions, exactly as they are given; as many in every row. */
function modelOf(states: number, rowsOf: (state: number) => Outcome[][]): Model {
  const width = rowsOf(0)[0].length
  const rowStart = new Int32Array(states + 1)
  for (let s = 0; s < states; s++) rowStart[s + 1] = rowStart[s] + rowsOf(s).length
  const rows = rowStart[states]
  const rowAction = new Int32Array(rows)
  const outcomeState = new Int32Array(rows * width)
  const outcomeProbability = new Float64Array(rows * width)
  const outcomeReward = new Float64Array(rows * width)
  for (let s = 0; s < states; s++)
    rowsOf(s).forEach((outcomes, action) => {
      const row = rowStart[s] + action
      rowAction[row] = action
      outcomes.forEach(({ to, chance, reward }, k) => {
        outcomeState[row * width + k] = to
        outcomeProbability[row * width + k] = chance
        outcomeReward[row * width + k] = reward
      })
    })
  return finishModel(
    {
      rowStart,
      rowAction,
      outcomeStart: Int32Array.from({ length: rows + 1 }, (_, row) => row * width),
      outcomeState,
      outcomeProbability,
      outcomeReward,
    },
    {
      labels: Array.from({ length: states }, (_, s) => `s${s}`),
      actions: Array.from({ length: rowStart[1] }, (_, a) => `a${a}`),
      starts: [{ state: 0, weight: 1 }],
      cap: CAP,
      distinct: true,
    },
  )
}
