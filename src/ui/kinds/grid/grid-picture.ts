import type { Layer } from '../../../core/lesson/names'
import type { Grid } from '../../../core/kinds/grid/document'
import { WALL } from '../../../core/kinds/grid/document'
import { cellName, parseCellName } from '../../../core/kinds/grid/cells'
import type { GridLayout } from '../../../core/kinds/grid/compile'
import type { Region } from '../../../core/kinds/grid/edit'
import type { Model } from '../../../core/model/model'
import { drawPlace, movedBy, READABLE } from '../../board/cell-overlay'
import { policyText } from '../../board/describe-states'
import { drawHatching, drawPawn, drawStipple, heading } from '../../board/glyphs'
import { drawThings, thingsAt } from './grid-things'
import type { Overlay } from '../../board/overlay'
import type { Colour, Pen } from '../../board/pen'
import { pictureScale, ringScale, tintOf } from '../../board/scales'
import { cellNumbers } from '../../board/value-scale'

export interface GridPicture {
  readonly grid: Grid
  /** Undefined while the grid does not compile: only the floor is drawn. */
  readonly compiled?: { readonly model: Model; readonly layout: GridLayout }
  /** Which of the layout's slices is shown, the first when left out. */
  readonly slice?: number
  readonly overlay?: Overlay
  readonly layers?: ReadonlySet<Layer>
  /** Cell numbers, row by row. */
  readonly selected?: number
  readonly agent?: number
  /** Cells that a calculation looks ahead to. */
  readonly ahead?: readonly number[]
  /** A marked part of the board. */
  readonly region?: Region
}

/** The states on the board, with their cells: those of the slice that is shown. */
function* shownStates({ compiled, slice = 0 }: GridPicture): Generator<[state: number, cell: number]> {
  const stateOfCell = compiled?.layout.slices[slice]?.stateOfCell
  if (!stateOfCell) return
  for (let cell = 0; cell < stateOfCell.length; cell++)
    if (stateOfCell[cell] >= 0) yield [stateOfCell[cell], cell]
}

/** Draws a grid with cells of `side` pixels, its top left corner at 0, 0. */
export function drawGrid(pen: Pen, picture: GridPicture, side: number): void {
  const { grid, compiled, selected, agent, ahead } = picture
  const columns = grid.floor[0].length
  const rows = grid.floor.length
  const centre = (cell: number): [number, number] => [
    ((cell % columns) + 0.5) * side,
    (Math.floor(cell / columns) + 0.5) * side,
  ]
  // Too small for anything but a colour, all cells are drawn at once.
  const tiny = side < READABLE.cell
  if (tiny) drawMosaic(pen, picture, side)
  else {
    pen.rectangle(0, 0, columns * side, rows * side, { fill: 'sheet' })
    drawTints(pen, picture, side, centre)
    drawFloor(pen, grid, side, centre, picture.overlay !== undefined)
  }
  drawThings(pen, grid, side, centre, { small: picture.overlay !== undefined, agent })
  if (compiled && !tiny) {
    drawUnreachable(pen, picture, side, centre)
    drawOverlay(pen, picture, side, centre)
  }
  for (const cell of ahead ?? [])
    outline(pen, ...centre(cell), side * 0.86, 'spruce', Math.max(1.5, side * 0.035))
  if (agent !== undefined) {
    const [x, y] = centre(agent)
    // On an ending it stands aside, so that what the ending pays can be read.
    if (picture.compiled && endsAt(picture, agent) && side >= 30)
      drawPawn(pen, x - side * 0.3, y + side * 0.22, side * 0.5)
    else drawPawn(pen, x, y, Math.max(18, side * 0.9))
  }
  if (picture.region) drawRegion(pen, picture.region, side)
  if (selected !== undefined) outline(pen, ...centre(selected), side, 'ink', Math.max(2, side * 0.045))
}

/** Whether an ending lies on a cell. */
function endsAt({ grid }: GridPicture, cell: number): boolean {
  const columns = grid.floor[0].length
  const at = cellName(cell % columns, Math.floor(cell / columns))
  return grid.endings.some((ending) => ending.at === at)
}

function drawRegion(pen: Pen, { left, top, right, bottom }: Region, side: number): void {
  const [x, y] = [left * side, top * side]
  const [width, height] = [(right - left + 1) * side, (bottom - top + 1) * side]
  pen.rectangle(x, y, width, height, { fill: 'slate', opacity: 0.18 })
  pen.rectangle(x, y, width, height, { stroke: 'slate', width: 2.5 })
}

type Centre = (cell: number) => [number, number]

/** Every cell as one colour: its wall, its tint or its ground. */
function drawMosaic(pen: Pen, picture: GridPicture, side: number): void {
  const { grid, compiled, overlay, slice = 0 } = picture
  const [columns, rows] = [grid.floor[0].length, grid.floor.length]
  const levels = groundLevels(grid)
  const stateOfCell = compiled?.layout.slices[slice]?.stateOfCell
  const tint = picture.compiled && tintOf(picture.compiled.model, picture)
  const colour = (cell: number): Colour => {
    const symbol = grid.floor[Math.floor(cell / columns)][cell % columns]
    if (symbol === WALL) return 'wall'
    const state = stateOfCell ? stateOfCell[cell] : -1
    if (stateOfCell && state < 0) return 'paper'
    if (state >= 0 && overlay?.turned?.[state] === 1) return 'plum'
    const colour = state >= 0 ? tint?.(state) : undefined
    return colour ?? { from: 'sheet', to: 'slate', part: 0.4 * (levels.get(symbol) ?? 0) }
  }
  pen.mosaic({ x: 0, y: 0, cellWidth: side, cellHeight: side, columns, rows, colour })
  pen.rectangle(0, 0, columns * side, rows * side, { stroke: 'rule-strong', width: 1.5 })
}

function drawTints(pen: Pen, picture: GridPicture, side: number, centre: Centre): void {
  const tint = picture.compiled && tintOf(picture.compiled.model, picture)
  if (!tint) return
  for (const [s, cell] of shownStates(picture)) {
    const fill = tint(s)
    if (!fill) continue
    const [x, y] = centre(cell)
    pen.rectangle(x - side / 2, y - side / 2, side, side, { fill })
  }
}

function drawFloor(pen: Pen, grid: Grid, side: number, centre: Centre, faint: boolean): void {
  const level = groundLevels(grid)
  const columns = grid.floor[0].length
  grid.floor.forEach((symbols, row) => {
    for (let column = 0; column < columns; column++) {
      const cell = row * columns + column
      if (symbols[column] === WALL) drawHatching(pen, ...centre(cell), side)
      else if (level.get(symbols[column]))
        drawStipple(pen, ...centre(cell), side, level.get(symbols[column])!, faint)
    }
  })
  const width = columns * side
  const height = grid.floor.length * side
  if (side >= 10) {
    for (let c = 1; c < columns; c++) pen.line(c * side, 0, c * side, height, { stroke: 'rule', width: 0.75 })
    for (let r = 1; r < grid.floor.length; r++)
      pen.line(0, r * side, width, r * side, { stroke: 'rule', width: 0.75 })
  }
  pen.rectangle(0, 0, width, height, { stroke: 'rule-strong', width: 1.5 })
}

/** How dear each ground is, from 0 to 1. */
function groundLevels(grid: Grid): Map<string, number> {
  const dearest = Math.max(0, ...grid.grounds.map((ground) => Math.abs(ground.cost)))
  return new Map(grid.grounds.map(({ symbol, cost }) => [symbol, dearest > 0 ? Math.abs(cost) / dearest : 0]))
}

/** Cells that lead on whoever comes there: that nobody stays on them is no fault of the drawing. */
function leadingOn({ jumps, sendBacks, draughts }: Grid): string[] {
  return [...jumps, ...sendBacks, ...draughts.filter(({ chance }) => chance === 1)].map(({ at }) => at)
}

/** Open cells that no episode can reach are crossed out lightly: they are not part of the environment. */
function drawUnreachable(pen: Pen, { grid, compiled }: GridPicture, side: number, centre: Centre) {
  const { columns, rows, slices } = compiled!.layout
  const leads = new Set(leadingOn(grid).map((at) => cellOf(at, columns)))
  for (let cell = 0; cell < columns * rows; cell++) {
    const symbol = grid.floor[Math.floor(cell / columns)]?.[cell % columns]
    if (symbol === WALL || symbol === undefined || leads.has(cell)) continue
    if (slices.some(({ stateOfCell }) => stateOfCell[cell] >= 0)) continue
    const [x, y] = centre(cell)
    const reach = side * 0.12
    pen.line(x - reach, y - reach, x + reach, y + reach, { stroke: 'rule-strong', width: 1 })
    pen.line(x - reach, y + reach, x + reach, y - reach, { stroke: 'rule-strong', width: 1 })
  }
}

function drawOverlay(pen: Pen, picture: GridPicture, side: number, centre: Centre): void {
  const { compiled, overlay, layers } = picture
  if (!compiled || !overlay || !layers) return
  const { model } = compiled
  const { rowStart } = model
  const style = {
    scale: pictureScale(picture),
    ringScale: ringScale(picture),
    write:
      layers.has('values') && overlay.values && side >= READABLE.number
        ? cellNumbers(overlay.values, Math.floor(side / 8.5))
        : undefined,
  }
  for (const [s, cell] of shownStates(picture)) {
    if (model.ending[s]) continue
    const [x, y] = centre(cell)
    const rows = (of: Float64Array | undefined) => of?.subarray(rowStart[s], rowStart[s + 1])
    drawPlace(
      pen,
      x,
      y,
      side,
      {
        value: overlay.values?.[s],
        angles: Array.from(model.rowAction.subarray(rowStart[s], rowStart[s + 1]), (action) =>
          heading(model.actions[action]),
        ),
        chances: layers.has('policy') ? rows(overlay.policy) : undefined,
        actionValues: layers.has('actionValues') ? rows(overlay.rowValues) : undefined,
        was: rows(overlay.was),
        moved: movedBy(overlay, s),
        turned: overlay.turned?.[s] === 1,
      },
      style,
    )
  }
}

function outline(pen: Pen, x: number, y: number, side: number, stroke: Colour, width: number): void {
  pen.rectangle(x - side / 2, y - side / 2, side, side, { stroke, width })
}

/** The number of a cell that is told by its name. */
export function cellOf(name: string, columns: number): number {
  const { column, row } = parseCellName(name)!
  return row * columns + column
}

/** A cell in words: its name, what stands there, and the numbers that lie over it. */
export function describeCell(picture: GridPicture, cell: number, format: (value: number) => string): string {
  const { grid, compiled, overlay, slice = 0 } = picture
  const columns = grid.floor[0].length
  const name = cellName(cell % columns, Math.floor(cell / columns))
  const symbol = grid.floor[Math.floor(cell / columns)][cell % columns]
  if (symbol === WALL) return `${name}: wall`
  const parts = thingsAt(grid, name, format)
  const ending = grid.endings.some(({ at }) => at === name)
  const ground = grid.grounds.find((candidate) => candidate.symbol === symbol)
  if (ground && !ending)
    parts.push(
      `${ground.name}${ground.cost ? `, costs ${format(ground.cost)}` : ''}${ground.veer === null ? '' : `, veers with ${format(ground.veer)}`}`,
    )
  const shown = compiled?.layout.slices[slice]
  const state = shown?.stateOfCell[cell] ?? -1
  const leads = leadingOn(grid).includes(name)
  if (compiled && state < 0 && !leads)
    parts.push(`no episode can get here${shown?.title ? ` ${shown.title}` : ''}`)
  if (compiled && state >= 0 && !ending) {
    const { model } = compiled
    if (overlay?.values && Number.isFinite(overlay.values[state]))
      parts.push(`value ${format(overlay.values[state])}`)
    if (overlay?.policy) parts.push(policyText(model, state, overlay.policy, format))
  }
  return `${name}${shown?.title ? ` ${shown.title}` : ''}: ${parts.join('; ')}`
}
