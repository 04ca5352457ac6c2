'use client'

import type { TableEnvironment } from '../../../core/kinds/table/kind'
import type { TableDocument } from '../../../core/kinds/table/document'
import { Button } from '../../parts/Button'
import { Icon } from '../../parts/Icon'
import { NumberField } from '../../parts/NumberField'
import { Section } from '../../parts/Section'
import { LineSelect } from '../../parts/Select'
import { useStudy } from '../../study/study-context'

/** States offered as starts at the most; others can be typed into the list. */
const CHOICES = 500

/** The controls of Build for a table: where episodes start, and where the states are drawn. */
export function TablePanel({ document }: { document: TableEnvironment }) {
  const edit = useStudy((state) => state.edit)
  const { table } = document
  const { starts, transitions, places } = table
  const change = (part: Partial<TableDocument>) => edit({ ...document, table: { ...table, ...part } })
  const states = [...new Set(transitions.map(([state]) => state))].filter((state) => state !== '')
  const free = states.filter((state) => starts.every((start) => start.state !== state)).slice(0, CHOICES)
  return (
    <Section title="Where episodes start">
      {starts.length === 0 && (
        <p className="text-[13px] text-ink-soft">
          {states.length ? `In ${states[0]}, the state of the first row.` : 'In the state of the first row.'}
        </p>
      )}
      {starts.map(({ state, weight }, i) => (
        <div key={state} className="grid grid-cols-[1fr_6rem_1.75rem] items-end gap-2">
          <span className="truncate pb-1 font-semibold" title={state}>
            {state}
          </span>
          <NumberField
            label="Weight"
            value={weight}
            min={0}
            aboveMin
            max={1e9}
            onChange={(next) =>
              change({ starts: starts.map((each, k) => (k === i ? { ...each, weight: next } : each)) })
            }
          />
          <Button
            look="quiet"
            aria-label={`No start in ${state}`}
            onClick={() => change({ starts: starts.filter((_, k) => k !== i) })}
          >
            <Icon name="cross" className="size-4" />
          </Button>
        </div>
      ))}
      {free.length > 0 && (
        <LineSelect
          label="Add a start"
          className="w-full"
          value=""
          options={[['', 'Add a start …'], ...free.map((state) => [state, state] as const)]}
          onChange={(state) => change({ starts: [...starts, { state, weight: 1 }] })}
        />
      )}
      {transitions.some(([, , , , , discount]) => discount !== undefined) && (
        <p className="text-[13px] text-ink-soft">
          Some outcomes discount what follows them. The sheet does not show it; the transition list has a
          column for it.
        </p>
      )}
      {table.observations && (
        <p className="text-[13px] text-ink-soft">
          Some states look alike to the agent, as the list says that this table was read from.
        </p>
      )}
      <p className="text-[13px] text-ink-soft">
        Drag states and chance nodes on the board to where they read best.{' '}
        {Object.keys(places).length > 0 && (
          <button
            type="button"
            className="underline underline-offset-4"
            onClick={() => change({ places: {} })}
          >
            Lay the graph out automatically
          </button>
        )}
      </p>
    </Section>
  )
}
