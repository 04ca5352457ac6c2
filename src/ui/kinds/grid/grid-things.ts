import { signedNumber } from '../../../core/formats/number'
import type { Grid } from '../../../core/kinds/grid/document'
import { parseCellName } from '../../../core/kinds/grid/cells'
import { drawFold, drawStart } from '../../board/glyphs'
import type { Pen } from '../../board/pen'
import {
  drawBonus,
  drawDraught,
  drawGate,
  drawOpening,
  drawSendBack,
  drawToken,
  drawWay,
} from './thing-glyphs'

type Point = [number, number]

/** Sides, in pixels, below which numbers and fine glyphs are left out. */
const FINE = 22
const VISIBLE = 7

/**
 * Draws what lies on the cells of a grid.
 * @param small  true under numbers and needles: the things then keep to a corner
 * @param agent  the cell the agent stands on, whose start ring it covers
 */
export function drawThings(
  pen: Pen,
  grid: Grid,
  side: number,
  centre: (cell: number) => Point,
  { small, agent }: { small: boolean; agent?: number },
): void {
  const columns = grid.floor[0].length
  const cellOf = (name: string) => {
    const { column, row } = parseCellName(name)!
    return row * columns + column
  }
  const at = (name: string) => centre(cellOf(name))
  if (side < VISIBLE) {
    for (const { at: name } of grid.endings) {
      const [x, y] = at(name)
      pen.rectangle(x - side / 2, y - side / 2, side, side, { fill: 'brass-bright' })
    }
    return
  }
  for (const draught of grid.draughts) {
    const [x, y] = at(draught.at)
    const { toward, strength, chance } = draught
    if (side < 10) continue
    // Under numbers and needles it keeps to a corner of its own.
    if (small) drawDraught(pen, x + side * 0.34, y - side * 0.34, side * 0.5, toward, strength, chance)
    else drawDraught(pen, x, y, side, toward, strength, chance)
  }
  /** The place and size of a thing: the middle of its cell, or its lower left corner under an overlay. */
  const spot = (name: string): [number, number, number] => {
    const [x, y] = at(name)
    return small ? [x - side * 0.34, y - side * 0.34, side * 0.42] : [x, y, side]
  }
  const number = (name: string, reward: number, colour: 'brass' | 'plum', down: number) => {
    if (side < FINE || small) return
    const [x, y] = at(name)
    pen.text(x, y + side * down, signedNumber(reward), {
      size: Math.min(side * 0.24, 20),
      colour,
      bold: true,
      rim: 'sheet',
    })
  }
  for (const { at: name } of grid.starts) {
    const [x, y] = at(name)
    // Under numbers and needles the ring makes itself small.
    if (small) drawStart(pen, x - side * 0.35, y - side * 0.35, side, 0.1)
    else if (cellOf(name) !== agent) drawStart(pen, x, y, side)
  }
  for (const jump of grid.jumps) {
    drawWay(pen, at(jump.at), at(jump.to), side)
    drawOpening(pen, ...spot(jump.at))
  }
  for (const { at: name, reward, to } of grid.sendBacks) {
    if (to !== null) drawWay(pen, at(name), at(to), side)
    const [x, y, size] = spot(name)
    drawSendBack(pen, x, y - (small ? 0 : side * 0.08), size)
    if (reward !== 0) number(name, reward, 'plum', 0.3)
  }
  for (const { at: name, reward, once } of grid.bonuses) {
    drawBonus(pen, ...spot(name), once)
    number(name, reward, 'brass', 0)
  }
  for (const { at: name, name: token, reward } of grid.tokens) {
    const [x, y, size] = spot(name)
    drawToken(pen, x, y - (reward !== 0 && !small && side >= FINE ? side * 0.1 : 0), size, token)
    if (reward !== 0) number(name, reward, 'brass', 0.34)
  }
  for (const { at: name, token } of grid.gates) drawGate(pen, ...spot(name), token)
  for (const { at: name, reward } of grid.endings) {
    const [x, y] = at(name)
    drawFold(pen, x, y, side)
    if (side >= FINE)
      pen.text(x - side * 0.04, y + side * 0.08, signedNumber(reward), {
        size: Math.min(side * 0.28, 22),
        colour: 'brass',
        bold: true,
      })
  }
}

/** What lies on a cell, in words. */
export function thingsAt(grid: Grid, name: string, format: (value: number) => string): string[] {
  const here = <T extends { readonly at: string }>(things: readonly T[]) =>
    things.filter(({ at }) => at === name)
  const called = (title: string) => (title ? ` “${title}”` : '')
  const total = grid.starts.reduce((sum, { weight }) => sum + weight, 0)
  return [
    ...here(grid.endings).map((thing) => `ending${called(thing.name)}, reward ${signedNumber(thing.reward)}`),
    ...here(grid.starts).map(({ weight }) =>
      grid.starts.length > 1 ? `start, chance ${format(weight / total)}` : 'start',
    ),
    ...here(grid.bonuses).map(
      (thing) =>
        `bonus${called(thing.name)} ${signedNumber(thing.reward)}, ${thing.once ? 'once an episode' : 'every time'}`,
    ),
    ...here(grid.sendBacks).map(
      (thing) =>
        `send-back${called(thing.name)}, reward ${signedNumber(thing.reward)}, to ${thing.to ?? 'a start'}`,
    ),
    ...here(grid.jumps).map(({ to }) => `jump to ${to}`),
    ...here(grid.tokens).map(
      (thing) => `token “${thing.name}”${thing.reward ? `, reward ${signedNumber(thing.reward)}` : ''}`,
    ),
    ...here(grid.gates).map(({ token }) => `gate, opened by ${token}`),
    ...here(grid.draughts).map(
      ({ toward, strength, chance }) =>
        `draught to the ${toward}, carries ${strength}${chance < 1 ? ` with chance ${format(chance)}` : ''}`,
    ),
  ]
}
