'use client'

import { Checkbox } from '../../parts/Checkbox'
import { useState } from 'react'
import type { GridEnvironment } from '../../../core/kinds/grid/kind'
import { formatNumber } from '../../../core/formats/number'
import { EDITOR_SIDE, type Grid } from '../../../core/kinds/grid/document'
import { resizeGrid, type Edges } from '../../../core/kinds/grid/edit'
import { mirrorGrid, turnGrid } from '../../../core/kinds/grid/transform'
import { Button } from '../../parts/Button'
import { Fold } from '../../study/Fold'
import { NumberField } from '../../parts/NumberField'
import { Section } from '../../parts/Section'
import { Select } from '../../parts/Select'
import { useStudy } from '../../study/study-context'
import { CellFields } from './CellFields'
import { GridText } from './GridText'
import { ToolBox } from './ToolBox'

/** The controls of Build for a grid. */
export function GridPanel({ document }: { document: GridEnvironment }) {
  const edit = useStudy((state) => state.edit)
  const cursor = useStudy((state) => state.cursor)
  const { grid } = document
  const put = (next: Grid) => edit({ ...document, grid: next })
  const change = (part: Partial<Grid>) => put({ ...grid, ...part })
  return (
    <>
      <ToolBox document={document} onGrid={change} />
      {cursor !== null && <CellFields grid={grid} cursor={cursor} onGrid={change} />}
      <MoveFields grid={grid} onGrid={change} />
      <SizeFields grid={grid} onGrid={put} />
      <GridText document={document} />
    </>
  )
}

function MoveFields({ grid, onGrid }: { grid: Grid; onGrid(part: Partial<Grid>): void }) {
  const { veer, stall, reverse, moves } = grid
  const straight = 1 - veer - stall - reverse
  const chance = (key: 'veer' | 'stall' | 'reverse', label: string, hint: string) => (
    <NumberField
      label={label}
      value={grid[key]}
      min={0}
      max={1}
      hint={hint}
      onChange={(value) => onGrid({ [key]: value })}
    />
  )
  const words = [
    veer > 0 && `to its left or right with ${formatNumber(veer / 2, 3)} each`,
    stall > 0 && `not at all with ${formatNumber(stall, 3)}`,
    reverse > 0 && `backwards with ${formatNumber(reverse, 3)}`,
  ].filter((each) => each !== false)
  return (
    <Section title="What a move does">
      <div className="grid grid-cols-3 gap-x-3 gap-y-2">
        <Select
          label="Moves"
          value={String(moves)}
          options={{ 4: 'four ways', 8: 'eight ways' }}
          hint="Eight ways: the diagonals too; between two walls no diagonal passes."
          onChange={(value) => onGrid({ moves: value === '8' ? 8 : 4 })}
        />
        <NumberField
          label="Reward of a step"
          value={grid.stepReward}
          min={-1e9}
          max={1e9}
          hint="Added to every step, on top of anything else it earns."
          onChange={(stepReward) => onGrid({ stepReward })}
        />
        <Checkbox
          title="Whether not moving is an action of its own."
          className="self-end pb-1"
          checked={grid.stay}
          onChange={(checked) => onGrid({ stay: checked })}
        >
          may stay
        </Checkbox>
        {chance(
          'veer',
          'Veer chance',
          'The chance that a move goes to its left or its right instead, half each.',
        )}
        {chance('stall', 'Stall chance', 'The chance that a move is not carried out.')}
        {chance('reverse', 'Reverse chance', 'The chance that a move goes the opposite way.')}
      </div>
      <Select
        label="The agent sees"
        value={grid.sees}
        options={{ cell: 'which cell it is on', around: 'only what is next to it' }}
        hint="With what is next to it, cells that look alike share what is learned: their ground, and walls, endings and grounds around them. Plan still knows the cell."
        onChange={(value) => onGrid({ sees: value as Grid['sees'] })}
      />
      {moves === 8 && (
        <Checkbox checked={grid.diagonalCosts} onChange={(checked) => onGrid({ diagonalCosts: checked })}>
          a diagonal costs its length (1.41 times a step)
        </Checkbox>
      )}
      <p className="text-[13px] text-ink-soft">
        {words.length === 0
          ? 'The robot goes where it is sent.'
          : straight < -1e-12
            ? 'The chances add up to more than 1: lower one of them.'
            : `It goes straight with chance ${formatNumber(Math.max(0, straight), 3)}, ${words.join(', ')}.`}{' '}
        Into a wall, a shut gate or off the board, it stays put.
      </p>
    </Section>
  )
}

const EDGES = { top: 'Top', right: 'Right', bottom: 'Bottom', left: 'Left' } as const

function SizeFields({ grid, onGrid }: { grid: Grid; onGrid(grid: Grid): void }) {
  const [edge, setEdge] = useState<keyof Edges>('right')
  const columns = grid.floor[0].length
  const rows = grid.floor.length
  const grow = (by: number, at: keyof Edges = edge) =>
    onGrid(resizeGrid(grid, { left: 0, top: 0, right: 0, bottom: 0, [at]: by }))
  return (
    <Fold name="Size" title={`Size: ${columns} x ${rows} cells`}>
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="Columns"
          whole
          value={columns}
          min={1}
          max={EDITOR_SIDE}
          onChange={(value) => grow(value - columns, 'right')}
        />
        <NumberField
          label="Rows"
          whole
          value={rows}
          min={1}
          max={EDITOR_SIDE}
          onChange={(value) => grow(value - rows, 'bottom')}
        />
      </div>
      <div className="flex items-end gap-2">
        <Select
          label="Edge"
          value={edge}
          options={EDGES}
          onChange={(value) => setEdge(value as keyof Edges)}
        />
        <Button onClick={() => grow(1)} title="Add a row or column at this edge">
          Add one
        </Button>
        <Button onClick={() => grow(-1)} title="Cut a row or column off at this edge">
          Cut one
        </Button>
      </div>
      <div className="flex flex-wrap gap-2">
        <Button onClick={() => onGrid(turnGrid(grid))}>Turn right</Button>
        <Button onClick={() => onGrid(mirrorGrid(grid, 'upright'))}>Left to right</Button>
        <Button onClick={() => onGrid(mirrorGrid(grid, 'lying'))}>Upside down</Button>
      </div>
    </Fold>
  )
}
