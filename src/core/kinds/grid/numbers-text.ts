import { formatNumber } from '../../formats/number'
import { picked } from '../../formats/picked'
import type { Model } from '../../model/model'
import type { TextNumbers } from '../kind'
import { cellName } from './cells'
import type { GridLayout } from './compile'

/** A table of numbers, and one of moves, laid out as the grid lies. @param place  one of the slice that is written */
export function numbersText(
  { model, layout }: { readonly model: Model; readonly layout: GridLayout },
  { values, policy }: TextNumbers,
  place: number,
): string {
  if (!values) return ''
  const { columns, rows, slices } = layout
  const { stateOfCell, title } = slices[Math.floor(place / (columns * rows))] ?? slices[0]
  const table = (what: string, write: (state: number) => string) => {
    const texts = Array.from({ length: rows }, (_, row) =>
      Array.from({ length: columns }, (_, column) => {
        const state = stateOfCell[row * columns + column]
        return state < 0 ? '' : write(state)
      }),
    )
    const head = Array.from({ length: columns }, (_, column) => cellName(column, 0).replace(/\d+$/, ''))
    const width = Math.max(3, ...texts.flat().map((text) => text.length), ...head.map((text) => text.length))
    const line = (label: string, cells: readonly string[]) =>
      `${label.padStart(3)} ${cells.map((text) => text.padStart(width)).join(' ')}`.trimEnd()
    return [
      `${what}${title ? ` ${title}` : ''}`,
      line('', head),
      ...texts.map((cells, row) => line(String(row + 1), cells)),
    ].join('\n')
  }
  return [
    table('Values', (s) => (model.ending[s] ? 'end' : formatNumber(values[s], 3).replaceAll('−', '-'))),
    ...(policy ? [table('Policy', (s) => (model.ending[s] ? 'end' : picked(model, s, policy, short)))] : []),
  ].join('\n\n')
}

/** `N`, `NE`, `stay`. */
function short(action: string): string {
  const match = /^(north|south)?(east|west)?$/.exec(action)
  return match && action ? `${match[1]?.[0] ?? ''}${match[2]?.[0] ?? ''}`.toUpperCase() : action
}
