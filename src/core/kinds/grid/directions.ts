/** The eight directions, clockwise from north; a grid of four moves uses every other one. */
export const DIRECTIONS = [
  { name: 'north', column: 0, row: -1 },
  { name: 'northeast', column: 1, row: -1 },
  { name: 'east', column: 1, row: 0 },
  { name: 'southeast', column: 1, row: 1 },
  { name: 'south', column: 0, row: 1 },
  { name: 'southwest', column: -1, row: 1 },
  { name: 'west', column: -1, row: 0 },
  { name: 'northwest', column: -1, row: -1 },
] as const

export type Direction = (typeof DIRECTIONS)[number]['name']
export const DIRECTION_NAMES: readonly Direction[] = DIRECTIONS.map(({ name }) => name)
/** Takes no step; what moves the agent anyway still does. */
export const STAY = 'stay'

export function directionIndex(name: Direction): number {
  return DIRECTION_NAMES.indexOf(name)
}

export function isDiagonal(direction: number): boolean {
  return direction % 2 === 1
}
