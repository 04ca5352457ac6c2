'use client'

import { useVirtualizer } from '@tanstack/react-virtual'
import Papa from 'papaparse'
import { useRef, useState, type ClipboardEvent, type KeyboardEvent } from 'react'
import type { TableEnvironment } from '../../../core/kinds/table/kind'
import { formatCount } from '../../../core/formats/number'
import { ProblemError, type Problem } from '../../../core/problem'
import { blankRow, pasteFields, putField, SHEET_COLUMNS } from '../../../core/kinds/table/sheet'
import type { Transition } from '../../../core/kinds/table/transition'
import { Button } from '../../parts/Button'
import { Icon } from '../../parts/Icon'
import { ProblemList } from '../../parts/ProblemList'
import { useModel, useStudy } from '../../study/study-context'

const TITLES = ['State', 'Action', 'Next state', 'Probability', 'Reward']
const COLUMNS = 'grid grid-cols-[2.2rem_1.15fr_1fr_1.15fr_4.9rem_3.9rem] text-[14px]'
const LINE = 28

interface Spot {
  readonly row: number
  readonly column: number
}

/** The transitions of a table as a sheet: walked with arrow keys, typed into, pasted into from a spreadsheet. */
export function TableDesk({ document }: { document: TableEnvironment }) {
  const edit = useStudy((state) => state.edit)
  const modelProblems = useModel((state) => state.problems)
  const scroller = useRef<HTMLDivElement>(null)
  const [active, setActive] = useState<Spot>({ row: 0, column: 0 })
  const [draft, setDraft] = useState<string | null>(null)
  const [refused, setRefused] = useState<readonly Problem[]>([])
  const rows = document.table.transitions
  // eslint-disable-next-line react-hooks/incompatible-library -- its functions are called while rendering only
  const lines = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => LINE,
    overscan: 12,
  })
  const put = (transitions: readonly Transition[]) => {
    setRefused([])
    if (transitions !== rows) edit({ ...document, table: { ...document.table, transitions } })
  }
  const attempt = (run: () => readonly Transition[]): boolean => {
    try {
      put(run())
      return true
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error
      setRefused(error.problems)
      return false
    }
  }
  /** Takes what was typed; false when it does not fit, and is then kept to be mended. */
  const commit = (): boolean => {
    if (draft === null || !rows[active.row]) return true
    const taken = attempt(() => putField(rows, active.row, active.column, draft))
    if (taken) setDraft(null)
    return taken
  }
  const go = (row: number, column: number) => {
    if (!commit()) return
    const spot = {
      row: Math.max(0, Math.min(rows.length - 1, row)),
      column: Math.max(0, Math.min(4, column)),
    }
    setActive(spot)
    lines.scrollToIndex(spot.row)
  }
  const addRow = () => {
    if (!commit()) return
    const at = Math.min(active.row + 1, rows.length)
    put([...rows.slice(0, at), blankRow(rows[at - 1]), ...rows.slice(at)])
    setActive({ row: at, column: rows.length ? 2 : 0 })
    scroller.current?.focus()
  }
  const removeRow = () => {
    setDraft(null)
    put(rows.filter((_, i) => i !== active.row))
    setActive({ ...active, row: Math.max(0, Math.min(active.row, rows.length - 2)) })
  }
  const onKeyDown = (event: KeyboardEvent) => {
    const { row, column } = active
    const typing = draft !== null
    const steps: Readonly<Record<string, readonly [number, number]>> = {
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
      Enter: [1, 0],
      ...(typing ? {} : { ArrowLeft: [0, -1], ArrowRight: [0, 1] }),
    }
    if (event.key === 'Escape' && typing) {
      setDraft(null)
      setRefused([])
      scroller.current?.focus()
    } else if (event.key === 'Tab' && typing) {
      event.preventDefault()
      go(row, column + (event.shiftKey ? -1 : 1))
      scroller.current?.focus()
    } else if (event.key === 'Enter' && !typing) setDraft(String(rows[row]?.[column] ?? ''))
    else if (steps[event.key]) {
      event.preventDefault()
      go(row + steps[event.key][0], column + steps[event.key][1])
      scroller.current?.focus()
    } else if (!typing && (event.key === 'Delete' || event.key === 'Backspace')) {
      if (column < 3 && rows[row]) attempt(() => putField(rows, row, column, ''))
    } else if (!typing && event.key === 'F2') setDraft(String(rows[row]?.[column] ?? ''))
    else if (!typing && event.key.length === 1 && !event.ctrlKey && !event.metaKey && !event.altKey)
      setDraft(event.key)
    else return
    if (event.key.length === 1 || event.key === 'Enter') event.preventDefault()
    event.stopPropagation()
  }
  const onPaste = (event: ClipboardEvent) => {
    if (draft !== null) return
    const text = event.clipboardData.getData('text/plain')
    if (!text) return
    event.preventDefault()
    const delimiter = text.includes('\t') ? '\t' : ','
    const { data } = Papa.parse<string[]>(text.replace(/\r\n?/g, '\n'), { delimiter })
    attempt(() => pasteFields(rows, active, data))
  }
  const shown = refused.length ? refused : modelProblems
  return (
    <section
      className="flex min-h-0 min-w-0 flex-col border-r border-rule-strong bg-sheet"
      aria-label="Transitions"
    >
      <div className="flex items-center gap-2 border-b border-rule px-3 py-1.5">
        <span className="mr-auto text-[14px] text-ink-soft">
          {formatCount(rows.length)} {rows.length === 1 ? 'row' : 'rows'}: type, or paste from a spreadsheet
        </span>
        <Button className="px-1.5 py-0.5" onClick={addRow}>
          <Icon name="plus" className="size-4" /> Row
        </Button>
        <Button className="px-1.5 py-0.5" disabled={!rows[active.row]} onClick={removeRow}>
          Remove row {rows.length ? active.row + 1 : ''}
        </Button>
      </div>
      <div className={`${COLUMNS} border-b border-rule-strong text-[13px] text-ink-soft`}>
        <span />
        {TITLES.map((title, i) => (
          <span key={title} className={`px-2 py-1 ${i > 2 ? 'text-right' : ''}`}>
            {title}
          </span>
        ))}
      </div>
      <div
        ref={scroller}
        role="grid"
        aria-label="Transitions, a row for each outcome"
        aria-rowcount={rows.length}
        aria-colcount={5}
        tabIndex={0}
        className="min-h-0 flex-1 overflow-y-auto focus-visible:outline-2 focus-visible:-outline-offset-2"
        onKeyDown={onKeyDown}
        onPaste={onPaste}
      >
        {rows.length === 0 && (
          <p className="p-4 text-ink-soft">
            The sheet is empty. Add a row, or paste a list with the columns {SHEET_COLUMNS.join(', ')}.
          </p>
        )}
        <div style={{ height: lines.getTotalSize(), position: 'relative' }}>
          {lines.getVirtualItems().map(({ index, start }) => (
            <div
              key={index}
              role="row"
              aria-rowindex={index + 1}
              className={`${COLUMNS} absolute inset-x-0 border-b border-rule ${samePair(rows, index) ? '' : 'border-t border-t-rule-strong'}`}
              style={{ top: start, height: LINE }}
            >
              <span className="px-1 text-right text-[12px] leading-7 text-ink-soft">{index + 1}</span>
              {rows[index].map((value, column) => {
                const here = active.row === index && active.column === column
                return (
                  <div
                    key={column}
                    role="gridcell"
                    aria-selected={here}
                    className={`min-w-0 truncate px-2 leading-7 ${column > 2 ? 'text-right' : ''} ${here ? 'outline-2 -outline-offset-2 outline-ink' : ''} ${value === '' ? 'bg-alert/10' : ''}`}
                    onClick={() => !here && go(index, column)}
                    onDoubleClick={() => setDraft(String(value))}
                  >
                    {here && draft !== null ? (
                      <FieldInput
                        title={`Row ${index + 1}, ${TITLES[column]}`}
                        value={draft}
                        wrong={refused.length > 0}
                        onChange={setDraft}
                        onLeave={commit}
                      />
                    ) : (
                      value
                    )}
                  </div>
                )
              })}
            </div>
          ))}
        </div>
      </div>
      {shown.length > 0 && (
        <div className="max-h-40 shrink-0 overflow-y-auto border-t border-rule-strong px-4 py-2">
          <ProblemList problems={shown} />
        </div>
      )}
    </section>
  )
}

/** Whether a row belongs to the same state and action as the one above. */
function samePair(rows: readonly Transition[], i: number): boolean {
  return i > 0 && rows[i][0] === rows[i - 1][0] && rows[i][1] === rows[i - 1][1]
}

function FieldInput({
  title,
  value,
  wrong,
  onChange,
  onLeave,
}: {
  title: string
  value: string
  wrong: boolean
  onChange(value: string): void
  onLeave(): void
}) {
  return (
    <input
      ref={(element) => {
        if (element && window.document.activeElement !== element) {
          element.focus()
          element.setSelectionRange(value.length, value.length)
        }
      }}
      aria-label={title}
      aria-invalid={wrong}
      className={`h-6 w-full bg-paper leading-6 outline-none ${wrong ? 'text-alert' : ''}`}
      value={value}
      onChange={(event) => onChange(event.target.value)}
      onBlur={onLeave}
    />
  )
}
