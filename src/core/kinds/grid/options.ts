import { fixedOption, type DocumentOption } from '../../environment/document-option'
import type { DocumentOf } from '../kind'
import type { Grid } from './document'

/** The options of a grid. */
export function gridOptions(document: DocumentOf<'grid', Grid>): DocumentOption<DocumentOf<'grid', Grid>>[] {
  const { grid } = document
  const put = (part: Partial<Grid>) => ({ ...document, grid: { ...grid, ...part } })
  return [
    fixedOption('moves', grid.moves, { 'four directions': 4, 'eight directions': 8 } as const, (moves) =>
      put({ moves }),
    ),
    fixedOption('staying put', grid.stay, { 'no action': false, 'an action': true }, (stay) => put({ stay })),
    fixedOption(
      'the agent sees',
      grid.sees,
      { 'its cell': 'cell', 'what is around': 'around' } as const,
      (sees) => put({ sees }),
    ),
  ]
}
