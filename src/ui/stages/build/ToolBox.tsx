'use client'

import type { GridEnvironment } from '../../../core/environment/document'
import { DIRECTION_NAMES, type Direction } from '../../../core/grid/directions'
import type { Grid, Ground } from '../../../core/grid/document'
import { drawFold, drawHatching, drawStart, drawStipple } from '../../board/glyphs'
import type { Pen } from '../../board/pen'
import { SvgPen } from '../../board/svg-pen'
import {
  drawBonus,
  drawDraught,
  drawGate,
  drawOpening,
  drawSendBack,
  drawToken,
} from '../../board/thing-glyphs'
import { Button } from '../../parts/Button'
import { Icon } from '../../parts/Icon'
import { NumberField } from '../../parts/NumberField'
import { Section } from '../../parts/Section'
import { Select } from '../../parts/Select'
import { useStudy } from '../../study/study-context'
import { SHAPES, TOOLS, useBrush, type Shape, type Tool } from './brush'
import { copyMarked, pasteHere, useToolKeys } from './use-tool-keys'

type Draw = (pen: Pen, x: number, y: number, side: number) => void

const PICTURES: Partial<Record<Tool, Draw>> = {
  wall: drawHatching,
  start: drawStart,
  ending: drawFold,
  bonus: (pen, x, y, side) => drawBonus(pen, x, y, side * 1.2, true),
  sendBack: (pen, x, y, side) => drawSendBack(pen, x, y, side * 1.3),
  draught: (pen, x, y, side) => drawDraught(pen, x, y, side * 1.2, 'east', 2, 1),
  jump: (pen, x, y, side) => drawOpening(pen, x, y, side),
  token: (pen, x, y, side) => drawToken(pen, x, y, side, 'K'),
  gate: (pen, x, y, side) => drawGate(pen, x, y, side, ''),
}

/** What one draws with: tools, how a stroke runs, and the numbers of what is painted next. */
export function ToolBox({
  document,
  onGrid,
}: {
  document: GridEnvironment
  onGrid(part: Partial<Grid>): void
}) {
  const { tool, symbol, pick } = useBrush()
  const { grid } = document
  useToolKeys()
  const others = grid.grounds.slice(1)
  const free = [...':;,~+=*ox'].find((candidate) =>
    grid.grounds.every((ground) => ground.symbol !== candidate),
  )
  const dearest = Math.max(1e-12, ...grid.grounds.map((ground) => Math.abs(ground.cost)))
  return (
    <Section title="Tools">
      <div role="radiogroup" aria-label="Tool" className="grid grid-cols-3 gap-x-1 gap-y-0.5">
        {(Object.keys(TOOLS) as (keyof typeof TOOLS)[]).map((each) => (
          <ToolButton
            key={each}
            name={TOOLS[each].title}
            letter={TOOLS[each].key.toUpperCase()}
            chosen={tool === each}
            draw={PICTURES[each]}
            onPick={() => pick(each)}
          />
        ))}
        {others.map((ground) => (
          <ToolButton
            key={ground.symbol}
            name={ground.name}
            letter="G"
            chosen={tool === 'ground' && symbol === ground.symbol}
            draw={(pen, x, y, side) => drawStipple(pen, x, y, side, Math.abs(ground.cost) / dearest)}
            onPick={() => pick('ground', ground.symbol)}
          />
        ))}
        {free && others.length < 8 && (
          <button
            type="button"
            className="flex items-center gap-2 rounded-sm px-1.5 py-1 text-left text-ink-soft hover:bg-rule/40"
            onClick={() => {
              const name = `ground ${grid.grounds.length}`
              onGrid({ grounds: [...grid.grounds, { symbol: free, name, cost: 2, veer: null }] })
              pick('ground', free)
            }}
          >
            <Icon name="plus" className="size-[22px] p-0.5" /> Ground
          </button>
        )}
      </div>
      <ShapeChoice document={document} />
      <ToolOptions grid={grid} onGrid={onGrid} />
    </Section>
  )
}

function ToolButton({
  name,
  letter,
  chosen,
  draw,
  onPick,
}: {
  name: string
  letter: string
  chosen: boolean
  draw?: Draw
  onPick(): void
}) {
  const pen = new SvgPen()
  pen.rectangle(0.5, 0.5, 21, 21, { fill: 'sheet' })
  draw?.(pen, 11, 11, 21)
  pen.rectangle(0.5, 0.5, 21, 21, { stroke: 'rule-strong' })
  return (
    <button
      type="button"
      role="radio"
      aria-checked={chosen}
      aria-label={name}
      title={`${name} (${letter})`}
      className={`flex w-full min-w-0 items-center gap-1.5 rounded-sm border px-1 py-0.5 text-left text-[14px] ${chosen ? 'border-ink bg-brass-bright/20 font-semibold' : 'border-transparent hover:bg-rule/40'}`}
      onClick={onPick}
    >
      <span
        className="size-[22px] shrink-0"
        aria-hidden
        dangerouslySetInnerHTML={{ __html: pen.svg(22, 22, name) }}
      />
      <span className="truncate">{name}</span>
      <kbd className="ml-auto font-sans text-[11px] text-ink-soft">{letter}</kbd>
    </button>
  )
}

function ShapeChoice({ document }: { document: GridEnvironment }) {
  const { shape, tool, region, copied, set } = useBrush()
  const cursor = useStudy((state) => state.cursor)
  const edit = useStudy((state) => state.edit)
  const drawnAsWay = tool === 'jump' || tool === 'sendBack'
  return (
    <div className="flex flex-wrap items-center gap-2">
      <div role="radiogroup" aria-label="Stroke" className="flex">
        {(Object.keys(SHAPES) as Shape[]).map((each) => (
          <button
            key={each}
            type="button"
            role="radio"
            aria-checked={shape === each}
            disabled={drawnAsWay && each !== 'mark' && each !== 'freehand'}
            title={`${SHAPES[each].title} (${SHAPES[each].key.toUpperCase()})`}
            className={`-ml-px border border-rule-strong px-1.5 py-0.5 text-[13px] first:ml-0 first:rounded-l-sm last:rounded-r-sm disabled:opacity-40 ${shape === each ? 'bg-ink text-paper' : 'bg-sheet'}`}
            onClick={() => set({ shape: each, ...(each === 'mark' ? {} : { region: null }) })}
          >
            {SHAPES[each].title}
          </button>
        ))}
      </div>
      {shape === 'mark' && (
        <>
          <Button
            className="px-1.5 py-0.5 text-[13px]"
            disabled={!region}
            title="Copy the marked part (Ctrl + C)"
            onClick={() => copyMarked(document)}
          >
            Copy
          </Button>
          <Button
            className="px-1.5 py-0.5 text-[13px]"
            disabled={!copied}
            title="Paste at the marked part or the selected cell (Ctrl + V)"
            onClick={() => pasteHere(document, { cursor, edit })}
          >
            Paste
          </Button>
        </>
      )}
    </div>
  )
}

/** The numbers of what the tool in hand puts down. */
function ToolOptions({ grid, onGrid }: { grid: Grid; onGrid(part: Partial<Grid>): void }) {
  const brush = useBrush()
  const { tool, rewards, set } = brush
  const reward = (key: keyof typeof rewards, label: string) => (
    <NumberField
      label={label}
      value={rewards[key]}
      min={-1e9}
      max={1e9}
      hint="Taken by what is painted next. Paint over one to change its reward."
      onChange={(value) => set({ rewards: { ...rewards, [key]: value } })}
    />
  )
  switch (tool) {
    case 'wall':
    case 'erase':
      return null
    case 'start':
      return (
        <Row>
          <NumberField
            label="Weight of the next start"
            value={brush.weight}
            min={0}
            max={1e9}
            aboveMin
            hint="An episode begins in each start with a chance in proportion to its weight."
            onChange={(weight) => set({ weight })}
          />
        </Row>
      )
    case 'ending':
      return <Row>{reward('ending', 'Reward of the next ending')}</Row>
    case 'token':
      return <Row>{reward('token', 'Reward for picking it up')}</Row>
    case 'bonus':
      return (
        <Row>
          {reward('bonus', 'Reward of the next bonus')}
          <label className="flex items-center gap-1.5 self-end pb-1.5">
            <input
              type="checkbox"
              className="size-4"
              checked={brush.once}
              onChange={(event) => set({ once: event.target.checked })}
            />
            once an episode
          </label>
        </Row>
      )
    case 'sendBack':
      return (
        <>
          <Row>{reward('sendBack', 'Reward of the next one')}</Row>
          <Hint>Click: it sends the agent to a start. Drag to a cell: it sends the agent there.</Hint>
        </>
      )
    case 'jump':
      return <Hint>Drag from where the jump begins to where it leads.</Hint>
    case 'gate':
      return grid.tokens.length ? (
        <Row>
          <Select
            label="Opened by"
            value={brush.gateToken}
            options={Object.fromEntries([
              ...(grid.tokens.some(({ name }) => name === brush.gateToken)
                ? []
                : [[brush.gateToken, 'choose a token']]),
              ...grid.tokens.map(({ name, at }) => [name, `${name} (${at})`]),
            ])}
            onChange={(gateToken) => set({ gateToken })}
          />
        </Row>
      ) : (
        <Hint>A gate is opened by a token: put one on the board first.</Hint>
      )
    case 'draught':
      return (
        <div className="grid grid-cols-3 gap-3">
          <Select
            label="Blows to the"
            value={brush.toward}
            options={Object.fromEntries(DIRECTION_NAMES.map((name) => [name, name]))}
            onChange={(toward) => set({ toward: toward as Direction })}
          />
          <NumberField
            label="Carries (cells)"
            whole
            value={brush.strength}
            min={1}
            max={3}
            onChange={(strength) => set({ strength })}
          />
          <NumberField
            label="Chance"
            value={brush.chance}
            min={0}
            max={1}
            hint="How often it blows when somebody comes to the cell or stays on it."
            onChange={(chance) => set({ chance })}
          />
        </div>
      )
    case 'ground':
      return <GroundFields grid={grid} symbol={brush.symbol} onGrid={onGrid} />
  }
}

function GroundFields({
  grid,
  symbol,
  onGrid,
}: {
  grid: Grid
  symbol: string
  onGrid(part: Partial<Grid>): void
}) {
  const ground = grid.grounds.find((each) => each.symbol === symbol)
  if (!ground) return <Hint>Choose a ground above.</Hint>
  const change = (part: Partial<Ground>) =>
    onGrid({ grounds: grid.grounds.map((each) => (each === ground ? { ...each, ...part } : each)) })
  return (
    <div className="grid grid-cols-[1fr_5.5rem_7rem] gap-3">
      <label className="block min-w-0">
        <span className="text-[13px] text-ink-soft">Name</span>
        <input
          className="w-full rounded-sm border border-rule-strong bg-sheet px-2 py-1 leading-5"
          value={ground.name}
          maxLength={40}
          onChange={(event) => event.target.value.trim() && change({ name: event.target.value })}
        />
      </label>
      <NumberField
        label="Cost of a step"
        value={ground.cost}
        min={-1e9}
        max={1e9}
        hint="Taken off the reward of every step that ends on this ground."
        onChange={(cost) => change({ cost })}
      />
      <div>
        <label className="flex items-center gap-1.5 text-[13px] text-ink-soft">
          <input
            type="checkbox"
            checked={ground.veer !== null}
            onChange={(event) => change({ veer: event.target.checked ? grid.veer : null })}
          />
          its own veer
        </label>
        {ground.veer !== null && (
          <input
            type="range"
            className="mt-1.5 w-full"
            aria-label={`Veer chance on ${ground.name}`}
            aria-valuetext={String(ground.veer)}
            title={`Veer chance ${ground.veer}`}
            min={0}
            max={1}
            step={0.05}
            value={ground.veer}
            onChange={(event) => change({ veer: Number(event.target.value) })}
          />
        )}
      </div>
    </div>
  )
}

function Row({ children }: { children: React.ReactNode }) {
  return <div className="grid grid-cols-2 gap-3">{children}</div>
}

function Hint({ children }: { children: React.ReactNode }) {
  return <p className="text-[13px] text-ink-soft">{children}</p>
}
