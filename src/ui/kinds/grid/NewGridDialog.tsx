'use client'

import { useState, type FormEvent } from 'react'
import { newGrid, newHall } from '../../../core/kinds/grid/blank'
import { EDITOR_SIDE } from '../../../core/kinds/grid/document'
import { ProblemError, type Problem } from '../../../core/problem'
import { createEnvironment } from '../../../session/api/environments'
import { Button } from '../../parts/Button'
import { Modal } from '../../parts/Modal'
import { NumberField } from '../../parts/NumberField'
import { ProblemList } from '../../parts/ProblemList'

/** What a grid can begin with. */
const BEGINNINGS = [
  [newHall, 'A small hall', 'a start, an ending and a wall, to be changed'],
  [newGrid, 'Bare floor', 'nothing on it yet'],
] as const

/** Asks for a name, a size and what to begin with, and makes a grid. */
export function NewGridDialog({
  open,
  onClose,
  onMade,
}: {
  open: boolean
  onClose(): void
  onMade(id: string): void
}) {
  const [name, setName] = useState('')
  const [columns, setColumns] = useState(10)
  const [rows, setRows] = useState(7)
  const [begin, setBegin] = useState(0)
  const [problems, setProblems] = useState<readonly Problem[]>([])
  // A name that was given up does not wait for the next grid.
  const cancel = () => {
    setName('')
    setProblems([])
    onClose()
  }
  const make = async (event: FormEvent) => {
    event.preventDefault()
    try {
      const made = await createEnvironment(
        JSON.stringify(BEGINNINGS[begin][0](name.trim() || 'New gallery', columns, rows)),
      )
      onMade(made.id)
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error
      setProblems(error.problems)
    }
  }
  return (
    <Modal open={open} title="A new grid" width="w-[26rem]" onClose={cancel}>
      <form onSubmit={make} className="space-y-4">
        <label className="flex flex-col">
          <span className="text-[13px] text-ink-soft">Name</span>
          <input
            autoFocus
            className="rounded-sm border border-rule-strong bg-sheet px-2 py-1"
            value={name}
            maxLength={120}
            placeholder="New gallery"
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <div className="grid grid-cols-2 gap-3">
          <NumberField
            label="Columns"
            whole
            value={columns}
            min={1}
            max={EDITOR_SIDE}
            onChange={setColumns}
          />
          <NumberField label="Rows" whole value={rows} min={1} max={EDITOR_SIDE} onChange={setRows} />
        </div>
        <fieldset className="space-y-1">
          <legend className="text-[13px] text-ink-soft">Begin with</legend>
          {BEGINNINGS.map(([, title, what], i) => (
            <label key={title} className="flex items-baseline gap-2">
              <input
                type="radio"
                name="begin"
                className="accent-ink"
                checked={begin === i}
                onChange={() => setBegin(i)}
              />
              <span>{title}</span>
              <span className="text-[13px] text-ink-soft">{what}</span>
            </label>
          ))}
        </fieldset>
        {problems.length > 0 && <ProblemList problems={problems} />}
        <div className="flex justify-end gap-2">
          <Button onClick={cancel}>Cancel</Button>
          <Button look="ink" type="submit">
            Create
          </Button>
        </div>
      </form>
    </Modal>
  )
}
