import { newHead } from '../../environment/head'
import { ProblemError } from '../../problem'
import type { Readers } from '../reader'
import { isListHeader } from '../table/transition-list'
import { PLAIN_GRID, type Grid } from './document'
import type { GridEnvironment } from './kind'
import { headOfMap, readGridText } from './read-grid-text'

/** What a grid is read into that brings its own grounds. */
const NO_GROUNDS: Grid = { ...PLAIN_GRID, grounds: [], floor: ['.'] }

export const gridReads: Readers<GridEnvironment> = {
  endings: {
    '.txt': (name, text) => ({ ...named(name, text), ...headOfMap(text) }),
  },
  guess: {
    order: 2,
    // A CSV of cells, as grids are exported; what is none is better read as a list.
    read(name, text) {
      const [first] = text.replace(/^\uFEFF/, '').split(/\r?\n/, 1)
      if (!first.includes(',') || isListHeader(first)) return undefined
      try {
        return named(name, text)
      } catch (error) {
        if (error instanceof ProblemError) return undefined
        throw error
      }
    },
  },
}

function named(name: string, text: string): GridEnvironment {
  return { ...newHead(name, 'Imported grid'), kind: 'grid', grid: readGridText(text, NO_GROUNDS) }
}
