import { formatCount, formatNumber } from '../../core/formats/number'
import type { BoardLegend } from './legends'
import type { ValueScale } from './value-scale'

/** The legends of a board. @param addition  said after the first title: what a place stands for */
export function Legends({
  legends,
  addition = '',
  narrow = false,
}: {
  legends: readonly BoardLegend[]
  addition?: string
  narrow?: boolean
}) {
  return legends.map((legend, i) => {
    const title = legend.title + (i === 0 ? addition : '')
    return 'scale' in legend ? (
      <ScaleLegend key={title} scale={legend.scale} title={title} narrow={narrow || legends.length > 1} />
    ) : (
      <CountLegend key={title} title={title} most={legend.most} />
    )
  })
}

/** Counts: the fuller the colour, the more. */
function CountLegend({ title, most }: { title: string; most: number }) {
  return (
    <div
      className="flex shrink-0 items-center gap-2 text-[13px] text-ink-soft"
      aria-label={`Legend: ${title}`}
    >
      <span>{title}</span>
      <span>0</span>
      <span
        className="h-3 w-36 border border-rule-strong"
        style={{
          background:
            'linear-gradient(90deg, var(--sheet), color-mix(in srgb, var(--brass-bright) 38%, var(--sheet)) 25%, color-mix(in srgb, var(--brass-bright) 75%, var(--sheet)))',
        }}
      />
      <span>{formatCount(most)}</span>
    </div>
  )
}

/** The value scale: what colour stands for what number. */
function ScaleLegend({ scale, title, narrow }: { scale: ValueScale; title: string; narrow?: boolean }) {
  if (scale.high === scale.low)
    return (
      <div className="shrink-0 text-[13px] text-ink-soft">
        {title} {formatNumber(scale.low)} everywhere
      </div>
    )
  const middle = (scale.middle - scale.low) / (scale.high - scale.low)
  const stops = [
    `color-mix(in srgb, var(--low) ${middle > 0 ? 80 : 0}%, var(--sheet))`,
    `var(--sheet) ${middle * 100}%`,
    `color-mix(in srgb, var(--high) ${middle < 1 ? 80 : 0}%, var(--sheet))`,
  ]
  return (
    <div
      className="flex max-w-full shrink-0 items-center gap-2 whitespace-nowrap text-[13px] text-ink-soft"
      aria-label={`Legend: ${title}`}
    >
      <span>{title}</span>
      <span>{formatNumber(scale.low)}</span>
      <span
        className={`relative h-3 border border-rule-strong min-w-8 ${narrow ? 'w-16' : 'w-36'}`}
        style={{ background: `linear-gradient(90deg, ${stops.join(', ')})` }}
      >
        <span className="absolute -top-0.5 h-4 w-px bg-ink" style={{ left: `${middle * 100}%` }} />
      </span>
      <span>{formatNumber(scale.high)}</span>
      <span className={narrow ? '' : 'pl-1'}>
        {narrow ? 'mid' : 'midpoint'} {formatNumber(scale.middle)}
      </span>
    </div>
  )
}
