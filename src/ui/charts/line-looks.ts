import type { Colour } from '../board/pen'

/** How a line is told from others, with and without colours. */
export interface LineLook {
  readonly colour: Colour
  readonly dash: 'solid' | 'dashed' | 'dotted'
  readonly symbol: 'circle' | 'diamond' | 'rect' | 'triangle'
}

const COLOURS: readonly Colour[] = [
  'ink',
  'plum',
  'spruce',
  'brass-bright',
  'slate',
  { from: 'plum', to: 'brass-bright', part: 0.5 },
]
const DASHES = ['solid', 'dashed', 'dotted'] as const
const SYMBOLS = ['circle', 'diamond', 'rect', 'triangle'] as const

/** The look of a line by its number, from 0: neighbours differ in colour and in dashes; eighteen differ from each other. */
export function lineLook(number: number): LineLook {
  const turn = Math.floor(number / COLOURS.length)
  return {
    colour: COLOURS[number % COLOURS.length],
    dash: DASHES[(number + turn) % DASHES.length],
    symbol: SYMBOLS[number % SYMBOLS.length],
  }
}
