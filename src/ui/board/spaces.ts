import type { Compiled } from '../../core/kinds/kinds'
import type { Model } from '../../core/model/model'
import type { Axis, StateSpace } from '../../core/model/space'
import type { HorizonPlan } from '../../core/plan/horizon'

const known = new WeakMap<Compiled, StateSpace>()

/**
 * The variables that the states of any environment are made of: where its kind knows of none, simply
 * the states.
 */
export function spaceOf(compiled: Compiled): StateSpace {
  const entry = known.get(compiled)
  if (entry) return entry
  const space = compiled.space ?? stateSpace(compiled.model)
  known.set(compiled, space)
  return space
}

function stateSpace(model: Model): StateSpace {
  return {
    axes: [{ name: 'state', texts: model.labels, numeric: false }],
    index: new Int32Array(model.states).map((_, s) => s),
  }
}

/** A model with a copy of every state for each number of steps that are left, for drawing only. */
export interface HorizonBoard {
  readonly model: Model
  readonly space: StateSpace
}

/** The axis of the stages is the last one. */
export function horizonBoard({ model }: Compiled, space: StateSpace, { count }: HorizonPlan): HorizonBoard {
  const { states, rows } = model
  const width = space.axes.length
  const axes: Axis[] = [
    ...space.axes,
    { name: 'steps to go', texts: Array.from({ length: count }, (_, k) => String(k + 1)), numeric: true },
  ]
  const index = new Int32Array(states * count * axes.length)
  const rowStart = new Int32Array(states * count + 1)
  const rowAction = new Int32Array(rows * count)
  const ending = new Uint8Array(states * count)
  for (let k = 0; k < count; k++) {
    rowAction.set(model.rowAction, k * rows)
    ending.set(model.ending, k * states)
    for (let s = 0; s < states; s++) {
      const copy = k * states + s
      rowStart[copy + 1] = k * rows + model.rowStart[s + 1]
      for (let a = 0; a < width; a++) index[copy * axes.length + a] = space.index[s * width + a]
      index[copy * axes.length + width] = k
    }
  }
  return {
    space: { axes, index },
    model: {
      ...model,
      states: states * count,
      rows: rows * count,
      rowStart,
      rowAction,
      ending,
      startState: new Int32Array(0),
      startProbability: new Float64Array(0),
      labels: Array.from(
        { length: states * count },
        (_, i) => `${model.labels[i % states]}, ${Math.floor(i / states) + 1} to go`,
      ),
    },
  }
}
