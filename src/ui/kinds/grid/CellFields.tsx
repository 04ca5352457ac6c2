'use client'

import { cellName } from '../../../core/kinds/grid/cells'
import { THING_LISTS, WALL, type Grid, type ThingList } from '../../../core/kinds/grid/document'
import { THING_NAMES } from '../../../core/kinds/grid/check-grid'
import { Button } from '../../parts/Button'
import { Icon } from '../../parts/Icon'
import { NumberField } from '../../parts/NumberField'
import { Section } from '../../parts/Section'
import { Select } from '../../parts/Select'

type Thing = { readonly at: string } & Readonly<Record<string, string | number | boolean | null>>

/** What lies on the selected cell, with its names and numbers to change. */
export function CellFields({
  grid,
  cursor,
  onGrid,
}: {
  grid: Grid
  cursor: number
  onGrid(part: Partial<Grid>): void
}) {
  const columns = grid.floor[0].length
  const cell = cursor % (columns * grid.floor.length)
  const at = cellName(cell % columns, Math.floor(cell / columns))
  const symbol = grid.floor[Math.floor(cell / columns)][cell % columns]
  const here = THING_LISTS.flatMap((list) =>
    thingsOf(grid, list).flatMap((thing, i) => (thing.at === at ? [{ list, thing, i }] : [])),
  )
  if (!here.length) return null
  const change = (list: ThingList, i: number, part: Partial<Thing> | null) => {
    const things = thingsOf(grid, list)
    const next = things.flatMap((thing, k) => (k !== i ? [thing] : part ? [{ ...thing, ...part }] : []))
    onGrid({ [list]: next })
  }
  return (
    <Section title={`On ${at}`}>
      {symbol === WALL && <p className="text-[13px] text-alert">The cell is a wall.</p>}
      {here.map(({ list, thing, i }) => (
        <div key={list} className="flex items-end gap-2">
          <span className="w-20 shrink-0 pb-1 font-semibold capitalize">{THING_NAMES[list]}</span>
          <div className="grid min-w-0 flex-1 grid-cols-[repeat(auto-fit,minmax(5rem,1fr))] gap-2">
            <ThingFields
              grid={grid}
              list={list}
              thing={thing}
              onChange={(part) => change(list, i, part)}
              onRename={(name) => renameToken(grid, i, name, onGrid)}
            />
          </div>
          <Button
            look="quiet"
            aria-label={`Remove the ${THING_NAMES[list]} from ${at}`}
            title="Remove"
            onClick={() => change(list, i, null)}
          >
            <Icon name="cross" className="size-4" />
          </Button>
        </div>
      ))}
    </Section>
  )
}

function thingsOf(grid: Grid, list: ThingList): readonly Thing[] {
  return grid[list] as readonly object[] as readonly Thing[]
}

/** The gates follow the new name. */
function renameToken(grid: Grid, i: number, name: string, onGrid: (part: Partial<Grid>) => void): void {
  const before = grid.tokens[i].name
  onGrid({
    tokens: grid.tokens.map((token, k) => (k === i ? { ...token, name } : token)),
    gates: grid.gates.map((gate) => (gate.token === before ? { ...gate, token: name } : gate)),
  })
}

function ThingFields({
  grid,
  list,
  thing,
  onChange,
  onRename,
}: {
  grid: Grid
  list: ThingList
  thing: Thing
  onChange(part: Partial<Thing>): void
  onRename(name: string): void
}) {
  const number = (key: string, label: string, min = -1e9, max = 1e9) => (
    <NumberField
      label={label}
      value={thing[key] as number}
      min={min}
      max={max}
      whole={key === 'strength'}
      aboveMin={key === 'weight'}
      onChange={(value) => onChange({ [key]: value })}
    />
  )
  const text = (key: string, label: string, max: number, put: (text: string) => void) => (
    <label className="block min-w-0">
      <span className="text-[13px] text-ink-soft">{label}</span>
      <input
        className="w-full rounded-sm border border-rule-strong bg-sheet px-2 py-1 leading-5"
        value={thing[key] as string}
        maxLength={max}
        onChange={(event) => put(event.target.value)}
      />
    </label>
  )
  const name = () => text('name', 'Name', 60, (value) => onChange({ name: value }))
  switch (list) {
    case 'starts':
      return number('weight', 'Weight', 0)
    case 'endings':
      return (
        <>
          {number('reward', 'Reward')}
          {name()}
        </>
      )
    case 'bonuses':
      return (
        <>
          {number('reward', 'Reward')}
          <Select
            label="Pays"
            value={String(thing.once)}
            options={{ true: 'once an episode', false: 'every time' }}
            onChange={(value) => onChange({ once: value === 'true' })}
          />
        </>
      )
    case 'sendBacks':
      return (
        <>
          {number('reward', 'Reward')}
          {name()}
        </>
      )
    case 'tokens':
      return (
        <>
          {text('name', 'Name', 20, (value) => {
            const name = value.replaceAll(',', '').trimStart()
            if (name.trim() && grid.tokens.every((token) => token.name !== name)) onRename(name)
          })}
          {number('reward', 'Reward')}
        </>
      )
    case 'gates':
      return (
        <Select
          label="Opened by"
          value={thing.token as string}
          options={Object.fromEntries(
            [...new Set([thing.token as string, ...grid.tokens.map((token) => token.name)])].map((each) => [
              each,
              each,
            ]),
          )}
          onChange={(token) => onChange({ token })}
        />
      )
    case 'draughts':
      return (
        <>
          {number('strength', 'Carries', 1, 3)}
          {number('chance', 'Chance', 0, 1)}
        </>
      )
    case 'jumps':
      return <span className="pb-1">leads to {thing.to}</span>
  }
}
