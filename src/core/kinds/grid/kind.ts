import { gridOutline } from './outline'
import { headKnobs } from '../../environment/head-knobs'
import type { CompiledBase, DocumentOf, EnvironmentKind } from '../kind'
import { checkGrid, checkGridShape } from './check-grid'
import type { GridLayout } from './compile'
import { describeFloor, FLOOR } from './differences'
import type { Grid } from './document'
import { GRID_EXPORTS } from './exports'
import { writeGridMap } from './grid-text'
import { numbersText } from './numbers-text'
import { gridNumbers } from './numbers'

export type GridEnvironment = DocumentOf<'grid', Grid>

export interface CompiledGrid extends CompiledBase {
  readonly kind: 'grid'
  readonly layout: GridLayout
}

const byPlace = { by: 'at' } as const

export const gridKind = {
  ...gridOutline,
  headKnobs: true,
  check: ({ grid }) => checkGrid(grid),
  checkShape: ({ grid }) => checkGridShape(grid),
  sameModel: (one, other) => one.grid === other.grid,
  isCovered: () => false,
  lying: ({ layout: { columns, rows, cellOfState } }) => ({ columns, rows, placeOfState: cellOfState }),
  numbers: gridNumbers,
  knobs: (document) => headKnobs(document, () => gridNumbers(document)),
  fields: {
    floor: { word: 'Cell', compare: FLOOR },
    grounds: { word: 'Ground', compare: { by: 'symbol' } },
    starts: { word: 'Start', compare: byPlace },
    endings: { word: 'Ending', compare: byPlace },
    bonuses: { word: 'Bonus', compare: byPlace },
    sendBacks: { word: 'Send-back', compare: byPlace },
    jumps: { word: 'Jump', compare: byPlace },
    tokens: { word: 'Token', compare: byPlace },
    gates: { word: 'Gate', compare: byPlace },
    draughts: { word: 'Draught', compare: byPlace },
    moves: { word: 'Moves' },
    stay: { word: 'May stay' },
    sees: { word: 'What the agent sees' },
    diagonalCosts: { word: 'A diagonal costs its length' },
    stepReward: { word: 'Reward of a step' },
    veer: { word: 'Veer chance' },
    stall: { word: 'Stall chance' },
    reverse: { word: 'Reverse chance' },
  },
  parts: { columns: 'Columns', rows: 'Rows' },
  describe: describeFloor,
  exports: GRID_EXPORTS,
  listLosses: () => [],
  text: ({ grid }) => writeGridMap(grid).trimEnd(),
  numbersText,
  scoresPolicies: false,
} as const satisfies EnvironmentKind<'grid', Grid, CompiledGrid>
