'use client'

import { useState } from 'react'
import type { AssignmentTerms } from '../../server/contract/classes'
import { Button } from '../parts/Button'
import { Checkbox } from '../parts/Checkbox'
import { NumberField } from '../parts/NumberField'
import { TextField } from '../parts/TextField'

/** How an exercise is handed out: until when, how often, under which names. */
export function TermsFields({
  terms: { tries: firstTries, closesAt: firstEnd, madeUpNames: firstNames },
  label,
  busy,
  onTerms,
}: {
  terms: AssignmentTerms
  /** What the button says. */
  label: string
  busy: boolean
  onTerms(terms: AssignmentTerms): void
}) {
  const [tries, setTries] = useState(firstTries ?? 0)
  const [closes, setCloses] = useState(firstEnd === null ? '' : localTime(firstEnd))
  const [madeUpNames, setMadeUpNames] = useState(firstNames)
  return (
    <div className="flex flex-wrap items-end gap-x-4 gap-y-2">
      <div className="w-40">
        <NumberField
          label="Tries (0 = unlimited)"
          value={tries}
          min={0}
          max={500}
          whole
          onChange={setTries}
        />
      </div>
      <TextField
        label="Closing time (optional)"
        type="datetime-local"
        value={closes}
        onChange={(event) => setCloses(event.target.value)}
      />
      <Checkbox checked={madeUpNames} onChange={setMadeUpNames}>
        Made-up names in standings
      </Checkbox>
      <Button
        look="ink"
        disabled={busy}
        onClick={() =>
          onTerms({
            tries: tries || null,
            closesAt: closes === '' ? null : new Date(closes).toISOString(),
            madeUpNames,
          })
        }
      >
        {label}
      </Button>
    </div>
  )
}

/** A time as fields of a browser take it. */
function localTime(iso: string): string {
  const time = new Date(iso)
  return new Date(time.getTime() - time.getTimezoneOffset() * 60_000).toISOString().slice(0, 16)
}
