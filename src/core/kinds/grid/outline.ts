import type { DocumentOf, KindOutline } from '../kind'
import { newGrid } from './blank'
import type { Grid } from './document'

export const gridOutline = {
  kind: 'grid',
  title: 'Grid',
  blank: (name: string): DocumentOf<'grid', Grid> => newGrid(name),
  roughOutcomes: ({ grid: { floor, tokens, bonuses, moves } }) => {
    const held = tokens.length + bonuses.filter(({ once }) => once).length
    return floor.length * floor[0].length * moves * 3 * 2 ** held
  },
} as const satisfies KindOutline<'grid', DocumentOf<'grid', Grid>>
