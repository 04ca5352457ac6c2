import { PLAIN_GRID, type Grid } from './document'

/** A grid with nothing on it; sides from 1 to 64. */
export function emptyGrid(columns: number, rows: number): Grid {
  return {
    ...PLAIN_GRID,
    floor: Array.from({ length: rows }, () => '.'.repeat(columns)),
    grounds: [
      { symbol: '.', name: 'parquet', cost: 0, veer: null },
      { symbol: ':', name: 'carpet', cost: 1, veer: null },
    ],
    stepReward: -1,
  }
}
