import type { Model } from '../../core/model/model'
import type { StateSpace } from '../../core/model/space'
import type { RulebookView } from '../../core/kinds/rulebook/document'

/** Which variables a map shows, by their numbers among the axes of the space. */
export interface MapView {
  readonly across: number
  /** -1 when there is a single variable. */
  readonly up: number
  /** [axes] of each variable that is on neither axis: the value looked at, or -1 for all of them summed up. */
  readonly others: readonly number[]
}

/** Where the states of a space lie on the map of two of its variables. */
export interface MapLayout {
  readonly space: StateSpace
  readonly view: MapView
  readonly columns: number
  readonly rows: number
  /** [cells + 1], [states shown]: the states of each cell; cells row by row from the top */
  readonly cellStart: Int32Array
  readonly cellState: Int32Array
  /** [states] the cell of a state, -1 for those that are not shown */
  readonly cellOfState: Int32Array
}

/** The view a document asks for, as far as its variables are there; what it leaves open is chosen. */
export function resolveView(space: StateSpace, view: RulebookView): MapView {
  const { axes } = space
  const named = (name: string | null) => axes.findIndex((axis) => axis.name === name)
  // By themselves: the two variables with the most values, numbers first.
  const order = axes
    .map((_, i) => i)
    .sort(
      (x, y) =>
        Number(axes[y].numeric) - Number(axes[x].numeric) ||
        axes[y].texts.length - axes[x].texts.length ||
        x - y,
    )
  const across = named(view.across) >= 0 ? named(view.across) : order.find((i) => i !== named(view.up))!
  const wanted = named(view.up)
  const up = wanted >= 0 && wanted !== across ? wanted : (order.find((i) => i !== across) ?? -1)
  return {
    across,
    up,
    others: axes.map((axis, i) => {
      if (i === across || i === up) return -1
      const text = Object.hasOwn(view.others, axis.name) ? view.others[axis.name] : null
      return text === null ? -1 : axis.texts.indexOf(text)
    }),
  }
}

export function layOut(space: StateSpace, states: number, view: MapView): MapLayout {
  const { axes, index } = space
  const width = axes.length
  const columns = axes[view.across].texts.length
  const rows = view.up < 0 ? 1 : axes[view.up].texts.length
  const cellOfState = new Int32Array(states).fill(-1)
  const cellStart = new Int32Array(columns * rows + 1)
  for (let s = 0; s < states; s++) {
    const at = s * width
    if (index[at] < 0) continue
    if (view.others.some((value, i) => value >= 0 && index[at + i] !== value)) continue
    const row = view.up < 0 ? 0 : rows - 1 - index[at + view.up]
    cellOfState[s] = row * columns + index[at + view.across]
    cellStart[cellOfState[s] + 1]++
  }
  for (let c = 0; c < columns * rows; c++) cellStart[c + 1] += cellStart[c]
  const fill = cellStart.slice()
  const cellState = new Int32Array(cellStart[columns * rows])
  for (let s = 0; s < states; s++) if (cellOfState[s] >= 0) cellState[fill[cellOfState[s]]++] = s
  return { space, view, columns, rows, cellStart, cellState, cellOfState }
}

export function statesOfCell({ cellStart, cellState }: MapLayout, cell: number): Int32Array {
  return cellState.subarray(cellStart[cell], cellStart[cell + 1])
}

/** How many cells have a state. */
export function distinctCells({ cellStart }: MapLayout): number {
  let cells = 0
  for (let c = 0; c + 1 < cellStart.length; c++) if (cellStart[c + 1] > cellStart[c]) cells++
  return cells
}

/** What a cell with several states is drawn as. */
export interface CellNumbers {
  /** Mean over the states of the cell that are no endings. */
  readonly value?: number
  /** [actions] the share of those states that pick each action */
  readonly chances?: Float64Array
  /** [actions] mean over the states that have the action; not a number where none has */
  readonly actionValues?: Float64Array
  /** Summed over the states. */
  readonly visits: number
  readonly ending: boolean
  readonly start: boolean
}

/** Sums a cell up, by the rule that the legend states. */
export function sumUp(
  model: Model,
  states: Int32Array,
  overlay: {
    readonly values?: Float64Array
    readonly policy?: Float64Array
    readonly rowValues?: Float64Array
    readonly rowVisits?: Float64Array
  },
  starts: ReadonlySet<number>,
): CellNumbers {
  const actions = model.actions.length
  const chances = overlay.policy && new Float64Array(actions)
  const sums = overlay.rowValues && new Float64Array(actions)
  const counts = new Float64Array(actions)
  let open = 0
  let total = 0
  let visits = 0
  let start = false
  for (const s of states) {
    if (starts.has(s)) start = true
    if (model.ending[s]) continue
    open++
    if (overlay.values) total += overlay.values[s]
    for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++) {
      const action = model.rowAction[r]
      counts[action]++
      if (chances) chances[action] += overlay.policy![r]
      if (sums) sums[action] += overlay.rowValues![r]
      if (overlay.rowVisits) visits += overlay.rowVisits[r]
    }
  }
  if (chances && open) for (let a = 0; a < actions; a++) chances[a] /= open
  if (sums) for (let a = 0; a < actions; a++) sums[a] = counts[a] ? sums[a] / counts[a] : NaN
  return {
    value: overlay.values && open ? total / open : undefined,
    chances: open ? chances : undefined,
    actionValues: open ? sums : undefined,
    visits,
    ending: states.length > 0 && open === 0,
    start,
  }
}
