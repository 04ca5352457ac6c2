'use client'

import { useEffect } from 'react'
import type { GridEnvironment } from '../../../core/environment/document'
import { formatCount, formatNumber } from '../../../core/formats/number'
import { EDITOR_SIDE, type Grid, type Ground } from '../../../core/grid/document'
import { resizeGrid, type Brush } from '../../../core/grid/edit'
import { drawFold, drawHatching, drawStart, drawStipple } from '../../board/glyphs'
import type { Pen } from '../../board/pen'
import { SvgPen } from '../../board/svg-pen'
import { Button } from '../../parts/Button'
import { Icon } from '../../parts/Icon'
import { NumberField } from '../../parts/NumberField'
import { ProblemList } from '../../parts/ProblemList'
import { Section } from '../../parts/Section'
import { RulebookPanel } from '../../rulebook/RulebookPanel'
import { useModel, useStudy } from '../../study/study-context'
import { useBrush } from './brush'

/** The controls of Build: tools and numbers of a grid; what a table is made of. */
export function BuildPanel() {
  const document = useStudy((state) => state.document)
  return (
    <div className="space-y-4">
      {document.kind === 'grid' && <GridTools document={document} />}
      {document.kind === 'table' && <TableFacts />}
      {document.kind === 'rulebook' && <RulebookPanel document={document} />}
      <EpisodeFields />
      {document.kind !== 'rulebook' && <SizeFacts />}
      <NoteField />
    </div>
  )
}

function GridTools({ document }: { document: GridEnvironment }) {
  const edit = useStudy((state) => state.edit)
  const { grid } = document
  const change = (part: Partial<Grid>) => edit({ ...document, grid: { ...grid, ...part } })
  return (
    <>
      <Tools grid={grid} onGrounds={(grounds) => change({ grounds })} />
      <Section title="What a move does">
        <div className="grid grid-cols-2 gap-3">
          <NumberField
            label="Veer chance"
            value={grid.veer}
            min={0}
            max={1}
            hint="The chance that a move goes to its left or its right instead, half each."
            onChange={(veer) => change({ veer })}
          />
          <NumberField
            label="Reward of every step"
            value={grid.stepReward}
            min={-1e9}
            max={1e9}
            hint="Added to every step, whatever else it pays."
            onChange={(stepReward) => change({ stepReward })}
          />
        </div>
        <p className="text-[13px] text-ink-soft">
          {grid.veer === 0
            ? 'The robot goes where it is sent.'
            : `It goes straight with chance ${formatNumber(1 - grid.veer, 3)}, to its left or right with ${formatNumber(grid.veer / 2, 3)} each.`}{' '}
          Into a wall or off the board, it stays put.
        </p>
      </Section>
      <Section title="Size">
        <div className="grid grid-cols-2 gap-3">
          <NumberField
            label="Columns"
            whole
            value={grid.floor[0].length}
            min={1}
            max={EDITOR_SIDE}
            onChange={(columns) => edit({ ...document, grid: resizeGrid(grid, columns, grid.floor.length) })}
          />
          <NumberField
            label="Rows"
            whole
            value={grid.floor.length}
            min={1}
            max={EDITOR_SIDE}
            onChange={(rows) => edit({ ...document, grid: resizeGrid(grid, grid.floor[0].length, rows) })}
          />
        </div>
      </Section>
    </>
  )
}

function Tools({ grid, onGrounds }: { grid: Grid; onGrounds(grounds: readonly Ground[]): void }) {
  const { tool, symbol, reward, pick, setReward } = useBrush()
  const costly = grid.grounds.slice(1)
  useEffect(() => {
    const keys: Record<string, Brush['type']> = { e: 'erase', w: 'wall', s: 'start', d: 'ending' }
    const press = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement
      if (
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        target.closest('input, textarea, select, [role=dialog]')
      )
        return
      const key = event.key.toLowerCase()
      if (keys[key]) pick(keys[key])
      else if (key === 'g' && costly.length) {
        const next = costly.findIndex((ground) => tool === 'ground' && ground.symbol === symbol) + 1
        pick('ground', costly[next % costly.length].symbol)
      }
    }
    window.addEventListener('keydown', press)
    return () => window.removeEventListener('keydown', press)
  }, [pick, costly, tool, symbol])
  const free = [...':;,~+=*o'].find(
    (candidate) => !grid.grounds.some((ground) => ground.symbol === candidate),
  )
  const dearest = Math.max(1e-12, ...grid.grounds.map((ground) => Math.abs(ground.cost)))
  return (
    <Section title="Tools">
      <div role="radiogroup" aria-label="Tool" className="space-y-1">
        <div className="grid grid-cols-2 gap-1">
          <Tool
            name="Wall"
            letter="W"
            chosen={tool === 'wall'}
            draw={drawHatching}
            onPick={() => pick('wall')}
          />
          <Tool name="Erase" letter="E" chosen={tool === 'erase'} onPick={() => pick('erase')} />
          <Tool
            name="Start"
            letter="S"
            chosen={tool === 'start'}
            draw={drawStart}
            onPick={() => pick('start')}
          />
          <Tool
            name="Ending"
            letter="D"
            chosen={tool === 'ending'}
            draw={drawFold}
            onPick={() => pick('ending')}
          />
        </div>
        {costly.map((ground, i) => (
          <div key={ground.symbol} className="flex items-end gap-2">
            <Tool
              name={ground.name}
              letter="G"
              chosen={tool === 'ground' && symbol === ground.symbol}
              draw={(pen, x, y, side) => drawStipple(pen, x, y, side, Math.abs(ground.cost) / dearest)}
              onPick={() => pick('ground', ground.symbol)}
            />
            <div className="w-28">
              <NumberField
                label="Cost of a step"
                value={ground.cost}
                min={-1e9}
                max={1e9}
                hint="Taken off the reward of every step that ends on this ground."
                onChange={(cost) =>
                  onGrounds(grid.grounds.map((each, k) => (k === i + 1 ? { ...each, cost } : each)))
                }
              />
            </div>
          </div>
        ))}
      </div>
      <div className="flex items-end gap-3">
        <div className="w-40">
          <NumberField
            label="Reward of the next ending"
            value={reward}
            min={-1e9}
            max={1e9}
            hint="Paid once, on entering the ending. Paint over an ending to change its reward."
            onChange={setReward}
          />
        </div>
        {free && costly.length < 6 && (
          <Button
            onClick={() => {
              onGrounds([...grid.grounds, { symbol: free, name: `ground ${grid.grounds.length}`, cost: 2 }])
              pick('ground', free)
            }}
          >
            <Icon name="plus" className="size-4" /> Ground
          </Button>
        )}
      </div>
    </Section>
  )
}

function Tool({
  name,
  letter,
  chosen,
  draw,
  onPick,
}: {
  name: string
  letter: string
  chosen: boolean
  draw?: (pen: Pen, x: number, y: number, side: number) => void
  onPick(): void
}) {
  const pen = new SvgPen()
  pen.rectangle(0.5, 0.5, 25, 25, { fill: 'sheet' })
  draw?.(pen, 13, 13, 25)
  pen.rectangle(0.5, 0.5, 25, 25, { stroke: 'rule-strong' })
  return (
    <button
      type="button"
      role="radio"
      aria-checked={chosen}
      aria-label={name}
      className={`flex w-full min-w-0 items-center gap-2 rounded-sm border px-1.5 py-1 text-left ${chosen ? 'border-ink bg-brass-bright/20 font-semibold' : 'border-transparent hover:bg-rule/40'}`}
      onClick={onPick}
    >
      <span
        className="size-[26px] shrink-0"
        aria-hidden
        dangerouslySetInnerHTML={{ __html: pen.svg(26, 26, name) }}
      />
      <span className="truncate">{name}</span>
      <kbd className="ml-auto font-sans text-[12px] text-ink-soft">{letter}</kbd>
    </button>
  )
}

function TableFacts() {
  return (
    <Section title="A transition list">
      <p className="text-ink-soft">
        This environment was read from a list of transitions. It can be planned and learned like any other; to
        change it, export the list as CSV, edit it and import it again.
      </p>
    </Section>
  )
}

function EpisodeFields() {
  const document = useStudy((state) => state.document)
  const edit = useStudy((state) => state.edit)
  return (
    <Section title="Episodes">
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="Discount to begin with"
          value={document.discount}
          min={0}
          max={1}
          hint="What a reward one step later is worth now. Plan and Learn begin with it when the environment is opened."
          onChange={(discount) => edit({ ...document, discount })}
        />
        <NumberField
          label="Cap"
          unit="steps, 0 for none"
          whole
          value={document.cap}
          min={0}
          max={1_000_000}
          hint="Steps after which an episode is cut off. Being cut off is not the same as ending."
          onChange={(cap) => edit({ ...document, cap })}
        />
      </div>
    </Section>
  )
}

function SizeFacts() {
  const document = useStudy((state) => state.document)
  const compiled = useModel((state) => state.compiled)
  const problems = useModel((state) => state.problems)
  if (!compiled) return <ProblemList problems={problems} />
  const { model } = compiled
  const endings = model.ending.reduce((sum, ending) => sum + ending, 0)
  return (
    <p className="border-y border-rule py-2 text-[14px]" data-testid="size">
      <span className="font-semibold">{formatCount(model.states)} states</span>, {formatCount(endings)} of
      them endings · <span className="font-semibold">{model.actions.length} actions</span> · table of{' '}
      {formatCount(model.rows)} values
      {document.kind === 'grid' &&
        document.grid.starts.length === 0 &&
        ' · starts anywhere, as no start is set'}
    </p>
  )
}

function NoteField() {
  const document = useStudy((state) => state.document)
  const edit = useStudy((state) => state.edit)
  return (
    <label className="block">
      <span className="text-[13px] text-ink-soft">What a class should look at</span>
      <textarea
        rows={6}
        maxLength={4000}
        className="w-full rounded-sm border border-rule-strong bg-paper px-2 py-1 leading-5"
        value={document.note}
        // One field, one step of undo: -1 is a stroke no brush has.
        onChange={(event) => edit({ ...document, note: event.target.value }, -1)}
      />
    </label>
  )
}
