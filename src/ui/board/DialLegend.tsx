import { dialAngles, drawNeedle, drawPivot } from './glyphs'
import { actionTint } from './map-picture'
import { SvgPen } from './svg-pen'

/** Which way the needle points for which action. Of many actions some are shown: the others lie between them. */
export function DialLegend({
  actions,
  most,
  shades,
}: {
  actions: readonly string[]
  most: number
  /** Cells too small for needles are shaded instead. */
  shades: boolean
}) {
  const angles = dialAngles(actions)
  const shown =
    actions.length <= most
      ? actions.map((_, k) => k)
      : Array.from({ length: most }, (_, i) => Math.round((i * (actions.length - 1)) / (most - 1)))
  // Levels of one action need its name once.
  const [prefix] = actions[0].split(' ')
  const common = actions.length > 1 && actions.every((action) => action.startsWith(`${prefix} `))
  return (
    <ul
      className="flex min-w-0 items-center gap-x-2.5 overflow-hidden text-[13px] text-ink-soft"
      aria-label="Legend: policy"
    >
      {common && <li className="shrink-0">{prefix}:</li>}
      {shown.map((k) => {
        const pen = new SvgPen()
        if (shades) {
          const fill = actionTint(actions.map((_, a) => (a === k ? 1 : 0)))
          pen.rectangle(2, 3, 14, 12, { fill, stroke: 'rule-strong', width: 1 })
        } else {
          drawNeedle(pen, 9, 9, 20, angles[k], 1)
          drawPivot(pen, 9, 9, 20)
        }
        return (
          <li key={k} className="flex shrink-0 items-center gap-1">
            <span
              className="size-[18px]"
              aria-hidden
              dangerouslySetInnerHTML={{ __html: pen.svg(18, 18, actions[k]) }}
            />
            {common ? actions[k].slice(prefix.length + 1) : actions[k]}
          </li>
        )
      })}
      {actions.length > most && <li className="shrink-0">of {actions.length}</li>}
    </ul>
  )
}
