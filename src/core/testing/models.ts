import { compileEnvironment } from '../environment/compile'
import { newHead } from '../environment/head'
import type { GridEnvironment } from '../kinds/grid/kind'
import { PLAIN_GRID, type Grid } from '../kinds/grid/document'
import type { Model } from '../model/model'
import { ModelBuilder } from '../model/builder'
import { RandomStream } from '../random/generator'
import { fraction, type Fraction } from './rational'

/** A grid document for tests from a floor and what differs from the plainest grid. */
export function gridDocument(floor: string[], grid: Partial<Grid> = {}, cap = 200): GridEnvironment {
  return {
    ...newHead('test', ''),
    kind: 'grid',
    discount: 0.9,
    cap,
    grid: {
      ...PLAIN_GRID,
      floor,
      grounds: [
        { symbol: '.', name: 'parquet', cost: 0, veer: null },
        { symbol: ':', name: 'carpet', cost: 2, veer: null },
      ],
      stepReward: -1,
      ...grid,
    },
  }
}

export function gridModel(floor: string[], grid: Partial<Grid> = {}, cap = 200): Model {
  return compileEnvironment(gridDocument(floor, grid, cap)).model
}

/** A small random model with exact chances in twelfths and whole rewards, kept twice: as fractions and compiled. */
export interface RationalModel {
  readonly model: Model
  /** rows of each state: outcomes of (next, chance, reward) */
  readonly rows: { next: number; chance: Fraction; reward: Fraction }[][][]
}

/** State 0 … states - 2 have 1 to 3 actions, the last state is an ending that every row may fall into. */
export function randomModel(seed: number, states: number): RationalModel {
  const stream = new RandomStream(seed, 'environment')
  const builder = new ModelBuilder()
  const rows: RationalModel['rows'] = []
  for (let s = 0; s < states; s++) builder.state(`s${s}`)
  for (let s = 0; s < states - 1; s++) {
    rows[s] = []
    for (let a = 0; a <= stream.below(3); a++) {
      const cut = 1 + stream.below(11)
      const targets = [stream.below(states), stream.below(states)].map((next, i) => ({
        next,
        twelfths: i === 0 ? cut : 12 - cut,
        reward: stream.below(21) - 10,
      }))
      rows[s].push(
        targets.map((t) => ({ next: t.next, chance: fraction(t.twelfths, 12), reward: fraction(t.reward) })),
      )
      for (const t of targets)
        builder.outcome(builder.row(s, builder.action(`a${a}`)), t.next, t.twelfths / 12, t.reward)
    }
  }
  rows[states - 1] = []
  return { model: builder.build({ starts: [{ state: 0, weight: 1 }], cap: 100 }), rows }
}

/** A transition of a model that is written as a list; the discount is that of what follows, 1 when left out. */
export type Line = [
  state: string,
  action: string,
  next: string,
  chance: number,
  reward: number,
  discount?: number,
]

/** A model from its transitions; states in the order in which they are left, then the others. */
export function listed(lines: readonly Line[], starts: readonly string[] = [lines[0][0]]): Model {
  const builder = new ModelBuilder()
  for (const [state] of lines) builder.state(state)
  for (const [state, action, next, chance, reward, discount] of lines)
    builder.outcome(
      builder.row(builder.state(state), builder.action(action)),
      builder.state(next),
      chance,
      reward,
      discount,
    )
  return builder.build({
    starts: starts.map((label) => ({ state: builder.state(label), weight: 1 })),
    cap: 100,
  })
}
