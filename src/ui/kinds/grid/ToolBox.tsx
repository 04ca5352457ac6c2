'use client'

import type { GridEnvironment } from '../../../core/kinds/grid/kind'
import type { Grid } from '../../../core/kinds/grid/document'
import { drawFold, drawHatching, drawStart, drawStipple } from '../../board/glyphs'
import type { Pen } from '../../board/pen'
import { SvgPen } from '../../board/svg-pen'
import { drawBonus, drawDraught, drawGate, drawOpening, drawSendBack, drawToken } from './thing-glyphs'
import { Button } from '../../parts/Button'
import { Icon } from '../../parts/Icon'
import { Section } from '../../parts/Section'
import { useStudy } from '../../study/study-context'
import { SHAPES, TOOLS, useBrush, type Shape, type Tool } from './brush'
import { ToolOptions } from './ToolOptions'
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
      <div
        role="radiogroup"
        aria-label="Tool"
        className="grid grid-cols-[repeat(auto-fill,minmax(7rem,1fr))] gap-x-1 gap-y-0.5"
      >
        {(Object.keys(TOOLS) as (keyof typeof TOOLS)[]).map((each) => (
          <ToolButton
            key={each}
            name={TOOLS[each].title}
            says={TOOLS[each].says}
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
            says="Ground with a cost of a step, and a veer chance, of its own."
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
  says,
  letter,
  chosen,
  draw,
  onPick,
}: {
  name: string
  says: string
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
      title={`${name} (${letter}): ${says}`}
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
            title={`${SHAPES[each].title} (${SHAPES[each].key.toUpperCase()}): ${SHAPES[each].says}`}
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
