'use client'

import { Checkbox } from '../../parts/Checkbox'
import type { ReactNode } from 'react'
import { DIRECTION_NAMES, type Direction } from '../../../core/kinds/grid/directions'
import type { Grid, Ground } from '../../../core/kinds/grid/document'
import { NumberField } from '../../parts/NumberField'
import { Select } from '../../parts/Select'
import { useBrush } from './brush'

/** The numbers of what the tool in hand puts down. */
export function ToolOptions({ grid, onGrid }: { grid: Grid; onGrid(part: Partial<Grid>): void }) {
  const brush = useBrush()
  const { tool, rewards, set } = brush
  const reward = (key: keyof typeof rewards, label: string) => (
    <NumberField
      label={label}
      value={rewards[key]}
      min={-1e9}
      max={1e9}
      hint="Used by what is painted next. Paint over a thing to change its reward."
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
          <Checkbox
            className="self-end pb-1.5"
            checked={brush.once}
            onChange={(checked) => set({ once: checked })}
          >
            once an episode
          </Checkbox>
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
        <Checkbox
          className="text-[13px] text-ink-soft"
          checked={ground.veer !== null}
          onChange={(checked) => change({ veer: checked ? grid.veer : null })}
        >
          a veer chance of its own
        </Checkbox>
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

function Row({ children }: { children: ReactNode }) {
  return <div className="grid grid-cols-2 gap-3">{children}</div>
}

function Hint({ children }: { children: ReactNode }) {
  return <p className="text-[13px] text-ink-soft">{children}</p>
}
