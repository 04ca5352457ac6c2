import { atOnce, PLAIN_COMPILED, type KindCompiler } from '../kind'
import { compileGrid } from './compile'
import type { CompiledGrid, GridEnvironment } from './kind'
import { gridPlaces, gridSpace } from './places'

export const gridCompiler = {
  compile: ({ grid, cap }) =>
    atOnce((): CompiledGrid => {
      const { model, layout } = compileGrid(grid, cap)
      return {
        ...PLAIN_COMPILED,
        kind: 'grid',
        model,
        layout,
        space: gridSpace(model, layout),
        places: gridPlaces(layout),
      }
    }),
} as const satisfies KindCompiler<GridEnvironment, CompiledGrid>
