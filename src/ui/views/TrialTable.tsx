'use client'

import { useMemo, useState } from 'react'
import { fixedNumber, formatCount } from '../../core/formats/number'
import { trialColumns, trialRows, type Drawn } from './comparison-lines'

/** What the episodes after training came to, a line a contestant, sorted by any column. */
export function TrialTable({ drawn }: { drawn: readonly Drawn[] }) {
  const rows = useMemo(() => trialRows(drawn), [drawn])
  const [by, setBy] = useState<{ readonly id: string; readonly down: boolean }>({ id: 'mean', down: true })
  const measures = Object.keys(rows[0]?.numbers ?? {}).flatMap((id) =>
    id.startsWith('measure ') ? [id.slice('measure '.length)] : [],
  )
  const columns = trialColumns(measures).filter(({ id }) => rows.some(({ numbers }) => numbers[id] !== null))
  const sorted = [...rows].sort((one, other) => {
    const [x, y] = [one.numbers[by.id] ?? -Infinity, other.numbers[by.id] ?? -Infinity]
    return by.down ? y - x : x - y
  })
  if (!rows.length) return null
  return (
    <div className="max-h-[45%] shrink-0 overflow-auto border-t border-rule pt-1">
      <table className="w-full text-[13px]">
        <caption className="sr-only">Episodes after training</caption>
        <thead className="sticky top-0 bg-paper">
          <tr className="border-b border-rule text-ink-soft">
            <th scope="col" className="text-left font-normal">
              contestant
            </th>
            <th scope="col" className="pl-3 text-right font-normal">
              runs
            </th>
            {columns.map(({ id, title, hint }) => (
              <th
                key={id}
                scope="col"
                className="pl-3 text-right font-normal"
                title={hint}
                aria-sort={by.id === id ? (by.down ? 'descending' : 'ascending') : undefined}
              >
                <button
                  type="button"
                  className="rounded-sm hover:text-ink"
                  onClick={() => setBy({ id, down: by.id === id ? !by.down : true })}
                >
                  {title}
                  <span aria-hidden>{by.id === id ? (by.down ? ' ▾' : ' ▴') : ''}</span>
                </button>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {sorted.map(({ id, name, runs, numbers }) => (
            <tr key={id}>
              <th scope="row" className="py-0.5 pr-2 text-left font-normal">
                {name}
              </th>
              <td className="pl-3 text-right">{formatCount(runs)}</td>
              {columns.map((column) => {
                const value = numbers[column.id]
                return (
                  <td key={column.id} className="pl-3 text-right whitespace-nowrap">
                    {value === null || value === undefined
                      ? '–'
                      : column.id === 'success' || column.id === 'cutOff'
                        ? `${fixedNumber(100 * value, 1)} %`
                        : fixedNumber(value)}
                  </td>
                )
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
