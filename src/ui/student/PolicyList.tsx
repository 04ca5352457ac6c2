'use client'

import { useState } from 'react'
import type { Seen } from '../../core/exercise/seen'
import { Button } from '../parts/Button'
import { Select } from '../parts/Select'
import { actionsOf, filled, type Drawn } from './drawn'

/** States that are listed at a time. */
const PAGE = 100

/** A policy is chosen from a list of states. */
export function PolicyList({
  seen,
  drawn,
  onDrawn,
}: {
  seen: Seen
  drawn: Drawn
  onDrawn(drawn: Drawn): void
}) {
  const actions = actionsOf(seen)
  const [rest, setRest] = useState(actions[0])
  const [shown, setShown] = useState(PAGE)
  return (
    <div className="space-y-3">
      <ul className="max-h-[28rem] divide-y divide-rule overflow-y-auto border border-rule-strong bg-sheet">
        {seen.states.slice(0, shown).map(({ states, actions: here }, i) => (
          <li key={i} className="flex items-center gap-3 px-3 py-1.5">
            <span className="min-w-0 grow break-words" id={`state-${i}`}>
              {states.join(', ')}
            </span>
            <select
              aria-labelledby={`state-${i}`}
              className="h-9 min-w-28 shrink-0 rounded-sm border border-rule-strong bg-sheet px-1"
              value={drawn[i] ?? ''}
              onChange={(event) => onDrawn({ ...drawn, [i]: event.target.value })}
            >
              <option value="" disabled>
                –
              </option>
              {here.map((action) => (
                <option key={action}>{action}</option>
              ))}
            </select>
          </li>
        ))}
      </ul>
      {shown < seen.states.length && (
        <Button onClick={() => setShown(shown + PAGE)}>Show more of the {seen.states.length} states</Button>
      )}
      <div className="flex flex-wrap items-end gap-2">
        <Select
          label="Action for the rest"
          value={rest}
          options={Object.fromEntries(actions.map((action) => [action, action]))}
          onChange={setRest}
        />
        <Button onClick={() => onDrawn(filled(seen, drawn, rest))}>Fill the rest</Button>
        <Button look="quiet" onClick={() => onDrawn({})}>
          Clear
        </Button>
      </div>
    </div>
  )
}
