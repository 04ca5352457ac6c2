import { clip } from '../../board/clip'
import { formatNumber, signedNumber } from '../../../core/formats/number'
import type { Model } from '../../../core/model/model'
import { drawPlace, movedBy, READABLE } from '../../board/cell-overlay'
import { drawFold, drawPawn, drawStart } from '../../board/glyphs'
import { CHANCE_SIDE, STATE_SIDE, type GraphEdge, type GraphLayout, type GraphNode } from './graph-layout'
import { pictureScale, ringScale, visitsOfStates } from '../../board/scales'
import type { Layer } from '../../../core/lesson/names'
import type { Overlay } from '../../board/overlay'
import type { Colour, Pen } from '../../board/pen'
import { cellNumbers, valueColour } from '../../board/value-scale'

export interface GraphPicture {
  readonly model: Model
  readonly layout: GraphLayout
  readonly overlay?: Overlay
  readonly layers?: ReadonlySet<Layer>
  /** States. */
  readonly selected?: number
  readonly agent?: number
  readonly ahead?: readonly number[]
}

/** How the layout lies in the room there is: scaled, then moved. */
export interface GraphFrame {
  readonly scale: number
  readonly left: number
  readonly top: number
}

const LARGEST = 1.35
const BEND = 34
const LOOP = 26

export function frameGraph(layout: GraphLayout, width: number, height: number): GraphFrame {
  const scale = Math.max(0.05, Math.min(LARGEST, width / layout.width, height / layout.height))
  return {
    scale,
    left: (width - layout.width * scale) / 2 - layout.left * scale,
    top: (height - layout.height * scale) / 2 - layout.top * scale,
  }
}

type Point = readonly [x: number, y: number]

/** The points of an edge, from rim to rim, in the units of the layout. */
export function edgePath(layout: GraphLayout, edge: GraphEdge): Point[] {
  const from = layout.nodes[edge.from]
  const to = layout.nodes[edge.to]
  if (edge.from === edge.to) {
    // A loop above the state; further ones lie around it.
    const reach = LOOP + 11 * edge.bend
    const [cx, cy] = [from.x, from.y - STATE_SIDE / 2 - reach * 0.55]
    return Array.from({ length: 21 }, (_, i): Point => {
      const angle = Math.PI / 2 + 0.55 + ((2 * Math.PI - 1.1) * i) / 20
      return [cx + reach * 0.62 * Math.cos(angle), cy + reach * Math.sin(angle) * 0.75]
    })
  }
  const [dx, dy] = [to.x - from.x, to.y - from.y]
  const length = Math.hypot(dx, dy) || 1
  // How far the rim is from the middle, along the edge.
  const rim = ({ row, square }: GraphNode) =>
    row >= 0
      ? CHANCE_SIDE / 2
      : square
        ? (STATE_SIDE / 2) * (length / Math.max(Math.abs(dx), Math.abs(dy), 1))
        : STATE_SIDE / 2
  const aside: Point = [
    (from.x + to.x) / 2 - (dy / length) * BEND * edge.bend * 2,
    (from.y + to.y) / 2 + (dx / length) * BEND * edge.bend * 2,
  ]
  const at = (t: number): Point => [
    (1 - t) ** 2 * from.x + 2 * t * (1 - t) * aside[0] + t * t * to.x,
    (1 - t) ** 2 * from.y + 2 * t * (1 - t) * aside[1] + t * t * to.y,
  ]
  const start = Math.min(0.45, rim(from) / length)
  const end = 1 - Math.min(0.45, rim(to) / length)
  const steps = edge.bend === 0 ? 1 : 12
  return Array.from({ length: steps + 1 }, (_, i) => at(start + ((end - start) * i) / steps))
}

/** Draws states, chance nodes and what leads from one to the other, with the layers and glyphs of every board. */
export function drawGraph(pen: Pen, picture: GraphPicture, { scale, left, top }: GraphFrame): void {
  const { model, layout, overlay, layers, selected, agent, ahead } = picture
  const { nodes, edges } = layout
  const place = ([x, y]: Point): [number, number] => [left + x * scale, top + y * scale]
  const side = STATE_SIDE * scale
  const chances = layers?.has('policy') ? overlay?.policy : undefined
  for (const edge of edges) drawEdge(pen, picture, edge, scale, place, chances)
  const style = {
    scale: pictureScale(picture),
    ringScale: ringScale(picture),
    write:
      layers?.has('values') && overlay?.values && side >= READABLE.number
        ? cellNumbers(overlay.values, Math.floor(side / 8.5))
        : undefined,
  }
  const visits =
    layers?.has('visits') && overlay?.rowVisits ? visitsOfStates(model, overlay.rowVisits) : undefined
  const most = visits?.reduce((x, y) => Math.max(x, y), 0) ?? 0
  const starts = new Set<number>(model.startState)
  for (const node of nodes) {
    const [x, y] = place([node.x, node.y])
    if (node.row >= 0) {
      const half = (CHANCE_SIDE * scale) / 2
      pen.polygon([x, y - half, x + half, y, x, y + half, x - half, y], {
        fill: 'sheet',
        stroke: 'ink',
        width: 1.25,
      })
      continue
    }
    const s = node.state
    let fill: Colour = 'sheet'
    if (!model.ending[s] && style.scale && layers?.has('values') && Number.isFinite(overlay!.values![s]))
      fill = valueColour(style.scale, overlay!.values![s])
    else if (visits && most > 0)
      fill = { from: 'sheet', to: 'brass-bright', part: 0.75 * Math.sqrt(visits[s] / most) }
    const rim = s === selected ? Math.max(3, side * 0.06) : 1.5
    if (model.ending[s]) {
      pen.rectangle(x - side / 2, y - side / 2, side, side, { fill, stroke: 'ink', width: rim })
      drawFold(pen, x, y, side)
    } else pen.circle(x, y, side / 2, { fill, stroke: 'ink', width: rim })
    if (ahead?.includes(s)) pen.circle(x, y, side / 2 + 4, { stroke: 'spruce', width: 3 })
    if (starts.has(s)) drawStart(pen, x - side * 0.46, y - side * 0.46, side, 0.1)
    if (overlay && layers && !model.ending[s]) {
      const rows = (of: Float64Array | undefined) => of?.subarray(model.rowStart[s], model.rowStart[s + 1])
      drawPlace(
        pen,
        x,
        y,
        side * 0.9,
        {
          value: overlay.values?.[s],
          angles: anglesOf(picture, s),
          chances: rows(chances),
          actionValues: layers.has('actionValues') ? rows(overlay.rowValues) : undefined,
          was: rows(overlay.was),
          moved: movedBy(overlay, s),
          turned: overlay.turned?.[s] === 1,
        },
        style,
      )
    }
    const size = Math.max(10, Math.min(14, 13 * scale))
    pen.text(x, y + side / 2 + size * 0.85, clip(model.labels[s], 18), {
      size,
      colour: 'ink',
      bold: true,
      rim: 'paper',
    })
    if (s === agent) drawPawn(pen, x, y, Math.max(20, side * 0.8))
  }
}

/** The way each action of a state begins, radians clockwise from east: where its needle and its arc point. */
function anglesOf({ model, layout }: GraphPicture, state: number): number[] {
  const node = layout.nodes[state]
  return Array.from({ length: model.rowStart[state + 1] - model.rowStart[state] }, (_, k) => {
    const path = edgePath(layout, layout.edges[layout.edgeOfRow[model.rowStart[state] + k]])
    return Math.atan2(path[0][1] - node.y, path[0][0] - node.x)
  })
}

function drawEdge(
  pen: Pen,
  { model, layout }: GraphPicture,
  edge: GraphEdge,
  scale: number,
  place: (point: Point) => [number, number],
  policy: Float64Array | undefined,
): void {
  const path = edgePath(layout, edge).map(place)
  // What the policy does not pick steps back.
  const picked = policy ? policy[edge.row] : 1
  const opacity = policy ? 0.28 + 0.72 * picked : 0.8
  const fromState = layout.nodes[edge.from].row < 0
  const width = (fromState ? 1.75 : 1.25) * Math.max(0.7, Math.min(1.2, scale))
  for (let i = 1; i < path.length; i++)
    pen.line(...path[i - 1], ...path[i], { stroke: fromState ? 'ink' : 'slate', width, opacity })
  const [tip, before] = [path[path.length - 1], path[path.length - 2]]
  if (edge.outcome >= 0) {
    const angle = Math.atan2(tip[1] - before[1], tip[0] - before[0])
    const reach = 8 * Math.max(0.75, scale)
    const wing = (turn: number): [number, number] => [
      tip[0] - reach * Math.cos(angle + turn),
      tip[1] - reach * Math.sin(angle + turn),
    ]
    pen.polygon([...tip, ...wing(0.42), ...wing(-0.42)], { fill: fromState ? 'ink' : 'slate', opacity })
  }
  if (scale < 0.5) return
  const [x, y] = edge.from === edge.to ? path[10] : middle(path)
  const words = [
    fromState
      ? model.actions[model.rowAction[edge.row]]
      : formatNumber(model.outcomeProbability[edge.outcome], 3),
  ]
  const reward = edge.outcome < 0 ? 0 : model.outcomeReward[edge.outcome]
  const size = Math.max(10.5, Math.min(13, 12.5 * scale))
  const lift = edge.from === edge.to ? -size * 0.5 : 0
  const style = { size, rim: 'paper' } as const
  if (reward === 0)
    pen.text(x, y + lift, clip(words[0], 14), { ...style, colour: fromState ? 'ink' : 'slate' })
  else {
    pen.text(x, y + lift - size * 0.5, clip(words[0], 14), { ...style, colour: fromState ? 'ink' : 'slate' })
    pen.text(x, y + lift + size * 0.5, signedNumber(reward), { ...style, colour: 'brass', bold: true })
  }
}

function middle(path: readonly (readonly [number, number])[]): [number, number] {
  const i = path.length >> 1
  if (path.length % 2) return [path[i][0], path[i][1]]
  return [(path[i - 1][0] + path[i][0]) / 2, (path[i - 1][1] + path[i][1]) / 2]
}
