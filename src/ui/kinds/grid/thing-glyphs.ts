import { directionIndex, type Direction } from '../../../core/kinds/grid/directions'
import type { Colour, Pen } from '../../board/pen'

/** The glyphs of what lies on the cells of a grid. All take the centre and the side of a cell, in pixels. */

/** A lozenge: a bonus; filled when it pays once, an outline in an outline when it pays every time. */
export function drawBonus(pen: Pen, x: number, y: number, side: number, once: boolean): void {
  const lozenge = (reach: number, fill?: Colour) =>
    pen.polygon([x, y - reach, x + reach * 0.72, y, x, y + reach, x - reach * 0.72, y], {
      fill,
      stroke: 'brass',
      width: Math.max(1, side * 0.03),
    })
  lozenge(side * 0.3, once ? { from: 'sheet', to: 'brass-bright', part: 0.45 } : undefined)
  if (!once) lozenge(side * 0.2)
}

/** A hook that turns back: who comes here is sent elsewhere. */
export function drawSendBack(pen: Pen, x: number, y: number, side: number): void {
  const width = Math.max(1.25, side * 0.055)
  const radius = side * 0.2
  pen.arc(x, y - side * 0.05, radius, -Math.PI * 0.95, Math.PI * 0.5, { stroke: 'plum', width })
  const tip = side * 0.1
  const left = x - side * 0.02
  const bottom = y - side * 0.05 + radius
  pen.polygon([left - tip * 1.2, bottom, left + tip * 0.4, bottom - tip, left + tip * 0.4, bottom + tip], {
    fill: 'plum',
  })
}

/** Chevrons: a draught; as many as cells it carries, pale when it blows now and then. */
export function drawDraught(
  pen: Pen,
  x: number,
  y: number,
  side: number,
  toward: Direction,
  strength: number,
  chance: number,
): void {
  const angle = ((directionIndex(toward) - 2) * Math.PI) / 4
  const cos = Math.cos(angle)
  const sin = Math.sin(angle)
  const at = (along: number, across: number): [number, number] => [
    x + along * cos - across * sin,
    y + along * sin + across * cos,
  ]
  const paint = { stroke: 'slate', width: Math.max(1, side * 0.035), opacity: 0.35 + 0.5 * chance } as const
  const reach = side * 0.13
  for (let i = 0; i < strength; i++) {
    const along = (i - (strength - 1) / 2) * side * 0.22 + reach / 2
    pen.line(...at(along - reach, -reach * 1.5), ...at(along, 0), paint)
    pen.line(...at(along, 0), ...at(along - reach, reach * 1.5), paint)
  }
}

/** A round opening: a jump begins here. */
export function drawOpening(pen: Pen, x: number, y: number, side: number): void {
  pen.circle(x, y, side * 0.26, { fill: 'rule', stroke: 'ink-soft', width: Math.max(1, side * 0.03) })
  pen.circle(x, y, side * 0.13, { fill: 'ink-soft' })
}

/** A dashed line from an opening to where it leads. */
export function drawWay(
  pen: Pen,
  from: readonly [number, number],
  to: readonly [number, number],
  side: number,
): void {
  const [x1, y1] = from
  const [x2, y2] = to
  const length = Math.hypot(x2 - x1, y2 - y1)
  if (length === 0) return
  const [cos, sin] = [(x2 - x1) / length, (y2 - y1) / length]
  const dash = Math.max(4, side * 0.14)
  const end = length - side * 0.16
  const paint = { stroke: 'ink-soft', width: Math.max(1, side * 0.02), opacity: 0.7 } as const
  for (let t = side * 0.3; t < end; t += dash * 1.7)
    pen.line(
      x1 + cos * t,
      y1 + sin * t,
      x1 + cos * Math.min(end, t + dash),
      y1 + sin * Math.min(end, t + dash),
      paint,
    )
  pen.circle(x2 - cos * side * 0.08, y2 - sin * side * 0.08, Math.max(2, side * 0.06), { fill: 'ink-soft' })
}

/** A disc with its first letters: a token to pick up. */
export function drawToken(pen: Pen, x: number, y: number, side: number, name: string): void {
  pen.circle(x, y, side * 0.26, {
    fill: { from: 'sheet', to: 'brass-bright', part: 0.25 },
    stroke: 'brass',
    width: Math.max(1, side * 0.04),
  })
  if (side >= 16)
    pen.text(x, y + side * 0.01, letters(name), { size: side * 0.24, colour: 'ink', bold: true })
}

/** Bars with the letters of the token that opens them: a gate. */
export function drawGate(pen: Pen, x: number, y: number, side: number, token: string): void {
  const half = side * 0.4
  const bar = { stroke: 'ink', width: Math.max(1.25, side * 0.06) } as const
  for (const across of [-1, -0.36, 0.36, 1])
    pen.line(x + across * half, y - half, x + across * half, y + half, bar)
  pen.line(x - half, y - half, x + half, y - half, bar)
  pen.line(x - half, y + half, x + half, y + half, bar)
  if (side >= 16)
    pen.text(x, y, letters(token), {
      size: side * 0.28,
      colour: 'ink',
      bold: true,
      rim: 'sheet',
    })
}

function letters(name: string): string {
  const short = [...name].slice(0, 2).join('')
  return short.charAt(0).toUpperCase() + short.slice(1)
}
