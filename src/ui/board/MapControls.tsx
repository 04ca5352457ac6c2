'use client'

import { LineSelect } from '../parts/Select'
import type { StateSpace } from '../../core/model/space'
import type { RulebookView } from '../../core/kinds/rulebook/document'
import { resolveView } from './map-layout'

/** Which two variables a map or a chart shows, and what becomes of the others. */
export function MapControls({
  space,
  view: wanted,
  lines = false,
  parts = [],
  onChange: change,
}: {
  space: StateSpace
  view: RulebookView
  /** The second variable makes lines of a chart, not rows of a map. */
  lines?: boolean
  /** The parts of actions of which the needles show one. */
  parts?: readonly string[]
  onChange(part: Partial<RulebookView>): void
}) {
  const view = resolveView(space, wanted)
  const { axes } = space
  const axisChoice = (label: string, chosen: number, other: number, key: 'across' | 'up') => (
    <LineSelect
      label={label}
      labelled
      className="max-w-36"
      value={axes[chosen].name}
      options={axes.map(({ name }) => [name, name])}
      onChange={(name) => {
        // Choosing what the other axis shows exchanges the two.
        const swap = axes[other]?.name === name
        change(
          key === 'across'
            ? { across: name, up: swap ? axes[chosen].name : axes[other]?.name }
            : { up: name, across: swap ? axes[chosen].name : axes[other]?.name },
        )
      }}
    />
  )
  const rest = axes.flatMap((axis, i) => (i === view.across || i === view.up ? [] : [{ axis, i }]))
  return (
    <div className="flex min-w-0 flex-wrap items-center gap-x-3 gap-y-1 text-[13px]">
      {axes.length > 1 && (
        <>
          {axisChoice('Across', view.across, view.up, 'across')}
          {axisChoice(lines ? 'A line for each' : 'Up', view.up, view.across, 'up')}
        </>
      )}
      {parts.length > 1 && (
        <LineSelect
          label="Needles show"
          labelled
          className="max-w-36"
          value={wanted.dial && parts.includes(wanted.dial) ? wanted.dial : parts[0]}
          options={parts.map((name) => [name, name])}
          onChange={(dial) => change({ dial })}
        />
      )}
      {rest.map(({ axis, i }) => (
        <label
          key={axis.name}
          className="flex items-center gap-1.5"
          title={`Which values of ${axis.name} the map shows`}
        >
          <span className="text-ink-soft">{axis.name}</span>
          <input
            type="range"
            className="w-20"
            min={-1}
            max={axis.texts.length - 1}
            value={view.others[i]}
            aria-valuetext={view.others[i] < 0 ? 'mean of all' : axis.texts[view.others[i]]}
            onChange={(event) => {
              const at = Number(event.target.value)
              change({ others: { ...wanted.others, [axis.name]: at < 0 ? null : axis.texts[at] } })
            }}
          />
          <span className="w-14 truncate font-semibold">
            {view.others[i] < 0 ? 'all' : axis.texts[view.others[i]]}
          </span>
        </label>
      ))}
    </div>
  )
}
