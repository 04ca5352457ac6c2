import type { PseudoLine } from '../../core/explain/pseudo-code'

/** A method as one would write it on the board, with the line at hand lit. */
export function PseudoCode({ lines, place }: { lines: readonly PseudoLine[]; place: string }) {
  return (
    <ol aria-label="Pseudo-code" className="font-code text-[12.5px] leading-5">
      {lines.map(({ text, indent, at }, i) => {
        const lit = at === place
        return (
          <li
            key={i}
            aria-current={lit ? 'step' : undefined}
            className={`border-l-4 pr-1 ${lit ? 'border-brass-bright bg-brass-bright/20 font-semibold' : 'border-transparent text-ink-soft'}`}
            style={{ paddingLeft: `${0.5 + indent * 1.1 + 1}em`, textIndent: '-1em' }}
          >
            {text}
          </li>
        )
      })}
    </ol>
  )
}
