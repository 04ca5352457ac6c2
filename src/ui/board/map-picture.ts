import type { Model } from '../../core/model/model'
import type { Axis } from '../../core/model/space'
import { drawPlace, movedBy, READABLE, TALL, WIDE } from './cell-overlay'
import { bestOnDial, chancesOnDial, type Dial } from './dial'
import { dialAngles, drawFold, drawPawn, drawStart } from './glyphs'
import { countTint, pictureScale, ringScale, visitsOfStates } from './scales'
import type { Layer } from '../../core/lesson/names'
import type { Overlay } from './overlay'
import { statesOfCell, sumUp, type MapLayout } from './map-layout'
import type { Colour, Pen } from './pen'
import { cellNumbers, valueColour } from './value-scale'

export interface MapPicture {
  readonly model: Model
  readonly dial: Dial
  readonly layout: MapLayout
  readonly overlay?: Overlay
  readonly layers?: ReadonlySet<Layer>
  /** States. */
  readonly selected?: number
  readonly agent?: number
  readonly ahead?: readonly number[]
}

/** Where the cells of a map lie in the room there is, in pixels. */
export interface MapFrame {
  readonly left: number
  readonly top: number
  readonly cellWidth: number
  readonly cellHeight: number
  readonly width: number
  readonly height: number
}

/** Largest sides of a cell, and how much longer one side of it may be than the other: a map fills its place. */
const WIDEST = 130
const TALLEST = 150
const STRETCH = 3.2
const BOTTOM = 40
const TOP = 6
const RIGHT = 8
const TICK = 12

/** Fits a map with its axes into a room. */
export function frameMap(layout: MapLayout, width: number, height: number): MapFrame {
  const left = layout.view.up < 0 ? 8 : 30 + 7 * longest(layout.space.axes[layout.view.up])
  const freeWidth = Math.max(20, width - left - RIGHT)
  const freeHeight = Math.max(20, height - TOP - BOTTOM)
  let cellWidth = Math.min(WIDEST, freeWidth / layout.columns)
  let cellHeight = Math.min(TALLEST, freeHeight / layout.rows)
  cellWidth = Math.min(cellWidth, cellHeight * STRETCH)
  cellHeight = Math.min(cellHeight, cellWidth * STRETCH)
  // Whole pixels keep the lines sharp, where cells are large enough to have lines.
  if (cellWidth >= 6) cellWidth = Math.floor(cellWidth)
  if (cellHeight >= 6) cellHeight = Math.floor(cellHeight)
  return {
    left,
    top: TOP,
    cellWidth,
    cellHeight,
    width: left + cellWidth * layout.columns + RIGHT,
    height: TOP + cellHeight * layout.rows + BOTTOM,
  }
}

function longest({ texts }: Axis): number {
  return Math.min(8, Math.max(...texts.map((text) => text.length)))
}

/** What changed about the states of a cell. */
function changesOfCell(
  { model, dial, layout, overlay }: MapPicture,
  cell: number,
  starts: ReadonlySet<number>,
) {
  if (!overlay?.was && !overlay?.moved && !overlay?.turned) return undefined
  const states = statesOfCell(layout, cell)
  const was = overlay.was && sumUp(model, states, { policy: overlay.was }, starts).chances
  return {
    was: was && chancesOnDial(dial, was),
    moved: states.length === 1 ? movedBy(overlay, states[0]) : undefined,
    turned: overlay.turned && states.some((s) => overlay.turned![s] === 1),
  }
}

/** Draws states as a map of two of their variables, with the layers and glyphs of every board. */
export function drawMap(pen: Pen, picture: MapPicture, frame: MapFrame): void {
  const { layout, selected, agent, ahead } = picture
  const { left, top, cellWidth, cellHeight } = frame
  const { columns, rows } = layout
  const side = Math.min(cellWidth, cellHeight)
  const centre = (cell: number): [number, number] => [
    left + ((cell % columns) + 0.5) * cellWidth,
    top + (Math.floor(cell / columns) + 0.5) * cellHeight,
  ]
  if (side < READABLE.cell)
    pen.mosaic({ x: left, y: top, cellWidth, cellHeight, columns, rows, colour: tileColours(picture) })
  else drawCells(pen, picture, frame, centre)
  drawAxes(pen, layout, frame)
  const mark = (state: number, stroke: Colour, inset: number) => {
    const cell = layout.cellOfState[state]
    if (cell < 0) return
    const [x, y] = centre(cell)
    const width = Math.max(5, cellWidth - inset)
    const height = Math.max(5, cellHeight - inset)
    pen.rectangle(x - width / 2, y - height / 2, width, height, { stroke, width: Math.max(2, side * 0.045) })
  }
  for (const state of ahead ?? []) mark(state, 'spruce', side * 0.14)
  const agentCell = agent === undefined ? -1 : layout.cellOfState[agent]
  if (agentCell >= 0) drawPawn(pen, ...centre(agentCell), Math.max(18, side * 0.9))
  if (selected !== undefined) mark(selected, 'ink', 0)
}

/** The numbers that the layers show. */
function shownOf({ overlay, layers }: MapPicture) {
  return {
    values: layers?.has('values') ? overlay?.values : undefined,
    policy: layers?.has('policy') ? overlay?.policy : undefined,
    rowValues: layers?.has('actionValues') ? overlay?.rowValues : undefined,
    rowVisits: layers?.has('visits') ? overlay?.rowVisits : undefined,
  }
}

/** The colours of cells that are too small for anything else: worked out without making anything for each cell. */
function tileColours(picture: MapPicture): (cell: number) => Colour {
  const { model, dial, layout, overlay } = picture
  const { cellStart, cellState } = layout
  const { values, policy, rowVisits } = shownOf(picture)
  const scale = pictureScale(picture)
  const visits = rowVisits && visitsOfStates(model, rowVisits)
  const visitsOf = (cell: number) => {
    let sum = 0
    for (let i = cellStart[cell]; i < cellStart[cell + 1]; i++) sum += visits![cellState[i]]
    return sum
  }
  let mostVisits = 0
  if (visits)
    for (let cell = 0; cell + 1 < cellStart.length; cell++) mostVisits = Math.max(mostVisits, visitsOf(cell))
  return (cell) => {
    let open = 0
    let total = 0
    let meanAction = 0
    for (let i = cellStart[cell]; i < cellStart[cell + 1]; i++) {
      const s = cellState[i]
      if (overlay?.turned?.[s]) return 'plum'
      if (model.ending[s]) continue
      open++
      if (values) total += values[s]
      if (policy)
        for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
          meanAction += policy[r] * dial.placeOf[model.rowAction[r]]
    }
    if (open === 0) return cellStart[cell + 1] > cellStart[cell] ? 'brass-bright' : 'paper'
    if (scale && values && Number.isFinite(total)) return valueColour(scale, total / open)
    if (mostVisits > 0) return countTint(visitsOf(cell) / mostVisits)
    return policy ? tintOfAction(meanAction / open, dial.places.length) : 'sheet'
  }
}

/** Draws cells that are large enough to be told apart, and what lies on them. */
function drawCells(
  pen: Pen,
  picture: MapPicture,
  frame: MapFrame,
  centre: (cell: number) => [number, number],
): void {
  const { model, dial, layout, overlay, layers } = picture
  const { cellWidth, cellHeight } = frame
  const { columns, rows } = layout
  const side = Math.min(cellWidth, cellHeight)
  const style = {
    scale: pictureScale(picture),
    ringScale: ringScale(picture),
    write:
      layers?.has('values') &&
      overlay?.values &&
      side >= (cellWidth >= WIDE * side ? 18 : cellHeight >= TALL * side ? 22 : READABLE.number)
        ? cellNumbers(
            overlay.values,
            Math.floor(cellWidth >= WIDE * side ? (cellWidth - side) / 6.5 : cellWidth / 8.5),
          )
        : undefined,
  }
  const angles = dialAngles(dial.places)
  const starts = new Set<number>(model.startState)
  const shown = shownOf(picture)
  const cells = Array.from({ length: columns * rows }, (_, cell) => {
    const { chances, actionValues, ...numbers } = sumUp(model, statesOfCell(layout, cell), shown, starts)
    return {
      ...numbers,
      chances: chances && chancesOnDial(dial, chances),
      actionValues: actionValues && bestOnDial(dial, actionValues),
    }
  })
  const mostVisits = cells.reduce((most, { visits }) => Math.max(most, visits), 0)
  const small = side < READABLE.needle
  for (let cell = 0; cell < cells.length; cell++) {
    const [x, y] = centre(cell)
    const numbers = cells[cell]
    const present = layout.cellStart[cell + 1] > layout.cellStart[cell]
    let fill: Colour = present ? 'sheet' : 'paper'
    if (numbers.ending) fill = small ? 'brass-bright' : 'sheet'
    else if (style.scale && numbers.value !== undefined && Number.isFinite(numbers.value))
      fill = valueColour(style.scale, numbers.value)
    else if (present && shown.rowVisits && mostVisits > 0) fill = countTint(numbers.visits / mostVisits)
    else if (small && numbers.chances) fill = actionTint(numbers.chances)
    // To whole pixels, or thin lines of the ground would show between small cells.
    const x0 = Math.round(x - cellWidth / 2)
    const y0 = Math.round(y - cellHeight / 2)
    pen.rectangle(x0, y0, Math.round(x + cellWidth / 2) - x0, Math.round(y + cellHeight / 2) - y0, { fill })
    if (!present && side >= 8) {
      const reach = side * 0.09
      pen.line(x - reach, y - reach, x + reach, y + reach, { stroke: 'rule-strong', width: 1 })
      pen.line(x - reach, y + reach, x + reach, y - reach, { stroke: 'rule-strong', width: 1 })
    }
    if (numbers.ending && !small) drawFold(pen, x + (cellWidth - side) / 2, y - (cellHeight - side) / 2, side)
    if (numbers.start && !small)
      drawStart(pen, x - cellWidth / 2 + side * 0.15, y - cellHeight / 2 + side * 0.15, side, 0.1)
  }
  drawLines(pen, layout, frame)
  if (overlay && layers)
    for (let cell = 0; cell < cells.length; cell++) {
      const numbers = cells[cell]
      if (numbers.ending) continue
      const [x, y] = centre(cell)
      drawPlace(
        pen,
        x,
        y,
        side,
        {
          value: numbers.value,
          angles,
          chances: numbers.chances,
          actionValues: numbers.actionValues,
          ...changesOfCell(picture, cell, starts),
        },
        style,
        cellWidth,
        cellHeight,
      )
    }
}

/** Too small for a needle, a cell is shaded by the action: the later in the order of actions, the darker. */
export function actionTint(chances: ArrayLike<number>): Colour {
  let mean = 0
  for (let a = 0; a < chances.length; a++) mean += a * chances[a]
  return tintOfAction(mean, chances.length)
}

function tintOfAction(mean: number, actions: number): Colour {
  return { from: 'sheet', to: 'slate', part: actions > 1 ? 0.1 + (0.8 * mean) / (actions - 1) : 0.5 }
}

function drawLines(
  pen: Pen,
  { columns, rows }: MapLayout,
  { left, top, cellWidth, cellHeight }: MapFrame,
): void {
  const right = left + columns * cellWidth
  const bottom = top + rows * cellHeight
  const line = { stroke: 'rule', width: 0.75 } as const
  if (cellWidth >= 9)
    for (let c = 1; c < columns; c++) pen.line(left + c * cellWidth, top, left + c * cellWidth, bottom, line)
  if (cellHeight >= 9)
    for (let r = 1; r < rows; r++) pen.line(left, top + r * cellHeight, right, top + r * cellHeight, line)
  pen.rectangle(left, top, right - left, bottom - top, { stroke: 'rule-strong', width: 1.5 })
}

function drawAxes(pen: Pen, { space, view, columns, rows }: MapLayout, frame: MapFrame): void {
  const { left, top, cellWidth, cellHeight } = frame
  const bottom = top + rows * cellHeight
  const across = space.axes[view.across]
  const style = { size: TICK, colour: 'ink-soft' } as const
  const everyColumn = tickStep(columns, (longest(across) * 7 + 8) / cellWidth)
  for (let c = 0; c < columns; c += everyColumn)
    pen.text(left + (c + 0.5) * cellWidth, bottom + 11, shortText(across.texts[c]), style)
  pen.text(left + (columns * cellWidth) / 2, bottom + 28, `${across.name} →`, {
    ...style,
    size: 13,
    bold: true,
    colour: 'ink',
  })
  if (view.up < 0) return
  const up = space.axes[view.up]
  const everyRow = tickStep(rows, 16 / cellHeight)
  for (let r = 0; r < rows; r += everyRow)
    pen.text(left - 6, bottom - (r + 0.5) * cellHeight, shortText(up.texts[r]), { ...style, align: 'right' })
  pen.text(9, top + (rows * cellHeight) / 2, `${up.name} →`, {
    ...style,
    size: 13,
    bold: true,
    colour: 'ink',
    upwards: true,
  })
}

function shortText(text: string): string {
  return text.length > 8 ? `${text.slice(0, 7)}…` : text
}

/** Every how many values a tick stands: 1, 2, 5, 10, … so that at least `room` values lie between two. */
function tickStep(count: number, room: number): number {
  for (let decade = 1; ; decade *= 10)
    for (const factor of [1, 2, 5])
      if (factor * decade >= room || factor * decade >= count) return factor * decade
}
