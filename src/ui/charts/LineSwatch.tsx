import { colourAsProperty } from '../board/svg-pen'
import { lineLook } from './line-looks'

const DASHES = { solid: undefined, dashed: '7 4', dotted: '2 3' }

/** How the line of a number is drawn, beside its name. */
export function LineSwatch({ look }: { look: number }) {
  const { colour, dash } = lineLook(look)
  return (
    <svg width="24" height="8" aria-hidden className="shrink-0">
      <line
        x1="0"
        x2="24"
        y1="4"
        y2="4"
        strokeWidth="2.5"
        stroke={colourAsProperty(colour)}
        strokeDasharray={DASHES[dash]}
      />
    </svg>
  )
}
