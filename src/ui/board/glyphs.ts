import { DIRECTION_NAMES } from '../../core/kinds/grid/directions'
import type { Colour, Pen } from './pen'

/** Draws the glyphs of the house. All take the centre and the side of a cell, in pixels. */

/** Where a move points, radians clockwise from east; undefined for actions that are no direction. */
export function heading(action: string): number | undefined {
  const direction = (DIRECTION_NAMES as readonly string[]).indexOf(action)
  return direction < 0 ? undefined : ((direction - 2) * Math.PI) / 4
}

/**
 * Where the needle points for each of some actions: the compass where all are directions, else a gauge that goes
 * clockwise from the lower left over the top, in the order of the actions.
 */
export function dialAngles(actions: readonly string[]): number[] {
  const compass = actions.map(heading)
  if (compass.every((angle) => angle !== undefined)) return compass
  const span = Math.min(1.5 * Math.PI, (Math.PI / 2) * (actions.length - 1))
  return actions.map((_, k) =>
    actions.length === 1 ? -Math.PI / 2 : -Math.PI / 2 - span / 2 + (span * k) / (actions.length - 1),
  )
}

/** The needle: the chance of an action. It swings on a pivot in the cell's centre; full length is certainty. */
export function drawNeedle(
  pen: Pen,
  x: number,
  y: number,
  side: number,
  angle: number,
  chance: number,
  colour: Colour = 'ink',
): void {
  if (chance < 0.01) return
  const length = side * (0.12 + 0.3 * chance)
  const half = side * 0.055
  const cos = Math.cos(angle)
  const sin = Math.sin(angle)
  const at = (along: number, across: number) => [
    x + along * cos - across * sin,
    y + along * sin + across * cos,
  ]
  pen.polygon([...at(length, 0), ...at(0, half), ...at(0, -half)], { fill: colour })
}

/** A small triangle: a value rose, or fell. */
export function drawMoved(pen: Pen, x: number, y: number, side: number, by: number): void {
  const up = by > 0 ? -1 : 1
  pen.polygon([x - side, y - up * side * 0.8, x + side, y - up * side * 0.8, x, y + up * side * 0.8], {
    fill: by > 0 ? 'spruce' : 'plum',
  })
}

/** The pivot that needles swing on; filled up by the chance of staying put. */
export function drawPivot(pen: Pen, x: number, y: number, side: number, still = 0): void {
  const radius = side * (0.075 + 0.06 * still)
  pen.circle(x, y, radius, { fill: 'sheet', stroke: 'ink', width: Math.max(1, side * 0.022) })
  if (still >= 0.01) pen.circle(x, y, radius * Math.sqrt(still), { fill: 'ink' })
}

/** Half the smallest angle between two places of a dial, in radians: arcs stay apart, whichever of them are drawn. */
export function arcReach(angles: readonly (number | undefined)[]): number {
  const sorted = angles.filter((angle) => angle !== undefined).sort((x, y) => x - y)
  const gaps = sorted.map((angle, k) => (sorted[k + 1] ?? sorted[0] + 2 * Math.PI) - angle)
  return Math.min(...gaps, 2 * Math.PI) / 2
}

/** The ring: one arc an action, turned its way, coloured by its value; the best arc is thick. */
export function drawRing(
  pen: Pen,
  x: number,
  y: number,
  side: number,
  arcs: readonly { angle: number; colour: Colour; best: boolean }[],
  /** Half of what an arc may take, in radians. */
  reach: number,
): void {
  const radius = side * 0.41
  const spread = reach * 0.72
  // Where all are equally good there is nothing to tell.
  const tells = arcs.some(({ best }) => !best)
  for (const { angle, colour, best } of arcs) {
    const along = [x, y, radius, angle - spread, angle + spread] as const
    // Its colour is that of the place itself, so that the best one may be dark: it is seen at a glance.
    if (best && tells) pen.arc(...along, { stroke: 'ink', width: side * 0.11 })
    else {
      pen.arc(...along, { stroke: 'rule-strong', width: side * 0.07 + 1 })
      pen.arc(...along, { stroke: colour, width: side * 0.07 })
    }
  }
}

/** The folded corner: an episode ends here. */
export function drawFold(pen: Pen, x: number, y: number, side: number): void {
  const right = x + side / 2
  const top = y - side / 2
  const size = side * 0.3
  pen.polygon([right - size, top, right, top, right, top + size], { fill: 'paper' })
  pen.polygon([right - size, top, right, top + size, right - size, top + size], {
    fill: 'brass-bright',
    stroke: 'ink',
    width: Math.max(0.5, side * 0.012),
  })
}

/** Hatching: a wall. */
export function drawHatching(pen: Pen, x: number, y: number, side: number): void {
  const left = x - side / 2
  const top = y - side / 2
  // Too small for lines, a wall is plain.
  pen.rectangle(left, top, side, side, { fill: side < 10 ? 'rule-strong' : 'wall' })
  if (side < 10) return
  const lines = side < 20 ? 2 : 4
  for (let i = 1; i < 2 * lines; i++) {
    const d = (i / lines) * side
    const [x1, y1] = d <= side ? [left, top + d] : [left + d - side, top + side]
    const [x2, y2] = d <= side ? [left + d, top] : [left + side, top + d - side]
    pen.line(x1, y1, x2, y2, { stroke: 'ink-soft', width: 0.75, opacity: 0.55 })
  }
}

/** Stipple: ground that costs; the dearer of two grounds has more dots. `level` from 0 to 1. */
export function drawStipple(
  pen: Pen,
  x: number,
  y: number,
  side: number,
  level: number,
  /** Whether numbers lie over it. */
  faint = false,
): void {
  const dots = side < 14 ? 2 : 3 + Math.round(2 * level)
  for (let r = 0; r < dots; r++)
    for (let c = 0; c < dots; c++)
      pen.circle(
        x - side / 2 + ((c + (r % 2 ? 0.75 : 0.25)) * side) / dots,
        y - side / 2 + ((r + 0.5) * side) / dots,
        Math.max(0.5, side * (0.012 + 0.014 * level)),
        { fill: 'slate', opacity: faint ? 0.28 : 0.6 },
      )
}

/** A dotted ring: an episode can start here. `radius` as a part of the side. */
export function drawStart(pen: Pen, x: number, y: number, side: number, part = 0.34): void {
  const radius = side * part
  for (let i = 0; i < 12; i++) {
    const angle = (i / 12) * 2 * Math.PI
    pen.arc(x, y, radius, angle, angle + 0.22, {
      stroke: 'brass-bright',
      width: Math.max(1, side * part * 0.15),
    })
  }
}

/** The agent: a pawn, jauntily tilted. */
export function drawPawn(pen: Pen, x: number, y: number, side: number): void {
  const scale = side * 0.024
  const tilt = 0.24
  const at = (px: number, py: number) => [
    x + scale * (px * Math.cos(tilt) - py * Math.sin(tilt)),
    y + scale * (px * Math.sin(tilt) + py * Math.cos(tilt)),
  ]
  const paint = { fill: 'brass-bright', stroke: 'ink', width: Math.max(0.75, side * 0.022) } as const
  const body = [-5, -2, 5, -2, 3, 1, 4, 6, 7, 10, -7, 10, -4, 6, -3, 1]
  pen.polygon(
    body.flatMap((_, i) => (i % 2 ? [] : at(body[i], body[i + 1]))),
    paint,
  )
  pen.polygon([...at(-8.5, 10), ...at(8.5, 10), ...at(8.5, 13), ...at(-8.5, 13)], paint)
  const [hx, hy] = at(0, -7)
  pen.circle(hx, hy, scale * 5, paint)
}
