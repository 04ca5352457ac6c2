'use client'

import { useState } from 'react'
import { newGrid, newHall } from '../../../core/kinds/grid/blank'
import { EDITOR_SIDE } from '../../../core/kinds/grid/document'
import { NumberField } from '../../parts/NumberField'
import { Beginnings, NewDialog } from '../NewDialog'

/** What a grid can begin with. */
const BEGINNINGS = [
  { make: newHall, title: 'A small hall', what: 'a start, an ending and a wall, to be changed' },
  { make: newGrid, title: 'Bare floor', what: 'nothing on it yet' },
]

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
  const [columns, setColumns] = useState(10)
  const [rows, setRows] = useState(7)
  const [begin, setBegin] = useState(0)
  return (
    <NewDialog
      open={open}
      title="A new grid"
      width="w-[26rem]"
      placeholder="New gallery"
      make={(name) => BEGINNINGS[begin].make(name, columns, rows)}
      onClose={onClose}
      onMade={onMade}
    >
      <div className="grid grid-cols-2 gap-3">
        <NumberField label="Columns" whole value={columns} min={1} max={EDITOR_SIDE} onChange={setColumns} />
        <NumberField label="Rows" whole value={rows} min={1} max={EDITOR_SIDE} onChange={setRows} />
      </div>
      <Beginnings all={BEGINNINGS} chosen={begin} onChoose={setBegin} />
    </NewDialog>
  )
}
