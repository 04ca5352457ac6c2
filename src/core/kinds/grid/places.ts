import type { Model } from '../../model/model'
import type { Axis, StateSpace } from '../../model/space'
import type { Places } from '../kind'
import { cellName } from './cells'
import type { GridLayout } from './compile'

/** The variables of a grid's states: column, row and, where something can be held, what is held. */
export function gridSpace(
  { states }: Model,
  { columns, rows, slices, cellOfState, sliceOfState }: GridLayout,
): StateSpace {
  const axes: Axis[] = [
    {
      name: 'column',
      texts: Array.from({ length: columns }, (_, c) => cellName(c, 0).slice(0, -1)),
      numeric: true,
    },
    // Upwards on a map is northwards on the floor: the last row is the lowest.
    { name: 'row', texts: Array.from({ length: rows }, (_, r) => String(rows - r)), numeric: true },
    ...(slices.length > 1
      ? [{ name: 'held', texts: slices.map(({ title }) => title || 'nothing'), numeric: false }]
      : []),
  ]
  const index = new Int32Array(states * axes.length)
  for (let s = 0; s < states; s++) {
    const at = s * axes.length
    index[at] = cellOfState[s] % columns
    index[at + 1] = rows - 1 - Math.floor(cellOfState[s] / columns)
    if (axes.length > 2) index[at + 2] = sliceOfState[s]
  }
  return { axes, index }
}

/** The places of a grid: its cells, slice by slice. */
export function gridPlaces({ columns, rows, slices, cellOfState, sliceOfState }: GridLayout): Places {
  const cells = columns * rows
  const stateOfPlace = new Int32Array(slices.length * cells)
  slices.forEach(({ stateOfCell }, i) => stateOfPlace.set(stateOfCell, i * cells))
  return { stateOfPlace, placeOfState: cellOfState.map((cell, s) => sliceOfState[s] * cells + cell) }
}
