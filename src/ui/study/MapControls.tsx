'use client'

import type { RulebookEnvironment } from '../../core/environment/document'
import type { StateSpace } from '../../core/model/space'
import type { RulebookView } from '../../core/rulebook/document'
import { resolveView } from '../board/map-layout'
import { useStudy } from './study-context'

/** Edits of the view are one step of undo together. */
const VIEW_STROKE = -2

/** Which two variables the map shows, and what becomes of the others. Kept with the environment. */
export function MapControls({ document, space }: { document: RulebookEnvironment; space: StateSpace }) {
  const edit = useStudy((state) => state.edit)
  const { rulebook } = document
  const view = resolveView(space, rulebook.view)
  const { axes } = space
  const change = (part: Partial<RulebookView>) =>
    edit({ ...document, rulebook: { ...rulebook, view: { ...rulebook.view, ...part } } }, VIEW_STROKE)
  const axisChoice = (label: string, chosen: number, other: number, key: 'across' | 'up') => (
    <label className="flex items-center gap-1.5">
      <span className="text-ink-soft">{label}</span>
      <select
        className="max-w-36 rounded-sm border border-rule-strong bg-sheet px-1 py-0.5"
        aria-label={label}
        value={axes[chosen].name}
        onChange={(event) => {
          const name = event.target.value
          // Choosing what the other axis shows exchanges the two.
          const swap = axes[other]?.name === name
          change(
            key === 'across'
              ? { across: name, up: swap ? axes[chosen].name : axes[other]?.name }
              : { up: name, across: swap ? axes[chosen].name : axes[other]?.name },
          )
        }}
      >
        {axes.map((axis) => (
          <option key={axis.name}>{axis.name}</option>
        ))}
      </select>
    </label>
  )
  const rest = axes.flatMap((axis, i) => (i === view.across || i === view.up ? [] : [{ axis, i }]))
  return (
    <div className="flex min-w-0 flex-wrap items-center gap-x-3 gap-y-1 text-[13px]">
      {axes.length > 1 && (
        <>
          {axisChoice('Across', view.across, view.up, 'across')}
          {axisChoice('Up', view.up, view.across, 'up')}
        </>
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
              change({ others: { ...rulebook.view.others, [axis.name]: at < 0 ? null : axis.texts[at] } })
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
