'use client'

import { useState } from 'react'
import type { GridEnvironment } from '../../../core/kinds/grid/kind'
import { writeGridCsv, writeGridMap } from '../../../core/kinds/grid/grid-text'
import { ProblemError, type Problem } from '../../../core/problem'
import { Button } from '../../parts/Button'
import { Fold } from '../../study/Fold'
import { ProblemList } from '../../parts/ProblemList'
import { useStudy } from '../../study/study-context'

/** The grid as text: to copy out, and to paste in. */
export function GridText({ document }: { document: GridEnvironment }) {
  const edit = useStudy((state) => state.edit)
  const [text, setText] = useState('')
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const take = async () => {
    // What reads and checks text is loaded when it is needed.
    const { readGridText } = await import('../../../core/kinds/grid/read-grid-text')
    try {
      const grid = readGridText(text, document.grid)
      setProblems([])
      edit({ ...document, grid })
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error
      setProblems(error.problems)
    }
  }
  return (
    <Fold title="As text">
      <p className="text-[13px] text-ink-soft">
        A map has a character a cell, and below it a line for each letter; a CSV a field a cell, from a
        spreadsheet. The rules of moving stay as they are.
      </p>
      <textarea
        aria-label="Text map or CSV"
        rows={8}
        spellCheck={false}
        className="w-full rounded-sm border border-rule-strong bg-paper px-2 py-1 font-code text-[13px] leading-4 whitespace-pre"
        placeholder={'S..#\n.#.X\n\nS = start\nX = ending 10 charging cupboard'}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <ProblemList problems={problems} />
      <div className="flex flex-wrap gap-2">
        <Button look="ink" disabled={text.trim() === ''} onClick={() => void take()}>
          Draw it
        </Button>
        <Button onClick={() => setText(writeGridMap(document.grid))}>Write the map</Button>
        <Button onClick={() => setText(writeGridCsv(document.grid))}>Write CSV</Button>
      </div>
    </Fold>
  )
}
