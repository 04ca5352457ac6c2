'use client'

import { useEffect, useMemo, useState } from 'react'
import { useStore } from 'zustand'
import type { Compiled } from '../../core/kinds/kinds'
import { LANDSCAPE_SCALES, preferencesWith, type LandscapeScale } from '../../core/learn/landscape'
import { tableRowOf, World } from '../../core/learn/world'
import { formatNumber } from '../../core/formats/number'
import type { Model } from '../../core/model/model'
import { landscapeChart } from '../charts/landscape-chart'
import { EChart } from '../charts/EChart'
import { LineSelect } from '../parts/Select'
import { stateAt } from '../../session/study/cursor'
import { useCovered, useParts, useStudy } from '../study/study-context'

/** Points along an axis: of a curve, of a map. */
const CURVE_POINTS = 101
const MAP_POINTS = 37
/** States that can be chosen from a list; any other by selecting it on the board. */
const LISTED = 300

/** The exact value at the start over one or two probabilities of the policy, with the way of the run on it. */
export function LandscapePane({ compiled }: { compiled: Compiled | null }) {
  const covered = useCovered()
  if (covered)
    return (
      <p className="mt-16 text-center text-ink-soft">What a policy is worth is hidden: reveal it first.</p>
    )
  return compiled && <Landscapes key={compiled.model.states} compiled={compiled} />
}

/** An axis: a state, and the action whose probability it is. */
interface AxisChoice {
  readonly state: number
  readonly action: number
}

function Landscapes({ compiled }: { compiled: Compiled }) {
  const { model } = compiled
  const { learn } = useParts()
  const cursor = useStudy((state) => state.cursor)
  const choices = useMemo(() => statesWithChoice(model), [model])
  const selected = stateAt(compiled, cursor)
  const [first, setFirst] = useState<AxisChoice | null>(() => firstAxis(model, choices, selected))
  const [second, setSecond] = useState<AxisChoice | null>(null)
  const [scale, setScale] = useState<LandscapeScale>('probability')
  const { frame, landscape } = useStore(learn.store)
  const rows = useMemo(
    () => [first, second].flatMap((axis) => (axis ? [rowOfAxis(model, axis)] : [])),
    [model, first, second],
  )
  const running = frame?.running ?? true
  const steps = frame?.steps
  useEffect(() => {
    if (!running && rows.length) learn.survey(rows, rows.length === 1 ? CURVE_POINTS : MAP_POINTS, scale)
  }, [learn, rows, running, steps, scale])
  const shown =
    landscape && String(landscape.rows) === String(rows) && landscape.scale === scale ? landscape : null
  const names = useMemo(
    () => [first, second].flatMap((axis) => (axis ? [nameOf(model, axis, scale)] : [])),
    [model, first, second, scale],
  )
  const build = useMemo(
    () =>
      shown &&
      frame &&
      landscapeChart({
        axes: names,
        scale,
        size: shown.size,
        values: shown.values,
        path: shown.path,
        now: { at: rows.map((row) => frame.policy[row]), value: frame.exactValue },
      }),
    [shown, frame, names, rows, scale],
  )
  if (!first)
    return <p className="mt-16 text-center text-ink-soft">There is no state with a choice of actions.</p>
  /** Begins a run with the policy of a point. */
  const setPolicy = async (places: readonly number[]) => {
    const at = places.map((place) => LANDSCAPE_SCALES[scale].toProbability(place))
    const { running: settings } = learn.store.getState()
    if (!frame || !settings) return
    const { table } = await learn.take()
    const world = new World(model)
    const policy = world.toTableRows(frame.policy)
    const preferences = at.reduce(
      (set, probability, i) =>
        preferencesWith(
          world,
          set,
          policy,
          settings.temperature,
          tableRowOf(world, rows[i]),
          Math.max(0, Math.min(1, probability)),
        ),
      table,
    )
    const said = [first, second]
      .flatMap((axis) => (axis ? [nameOf(model, axis, 'probability')] : []))
      .map((name, i) => `${name} ${formatNumber(at[i], 3)}`)
      .join(', ')
    learn.restartWith({ title: `a policy of the landscape: ${said}`, table: preferences })
  }
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1.5 text-[13px]">
        <AxisFields label="Across" model={model} choices={choices} axis={first} onChange={setFirst} />
        <AxisFields
          label="Up"
          model={model}
          choices={choices}
          axis={second}
          mayBeNone
          without={first}
          onChange={setSecond}
        />
        <LineSelect
          label="by"
          labelled
          hint="Preferences are what the gradient moves: far from 0 a landscape over them is nearly flat."
          value={scale}
          options={Object.entries(LANDSCAPE_SCALES).map(([id, { title }]) => [id, title] as const)}
          onChange={(value) => setScale(value as LandscapeScale)}
        />
        <span role="status" className="text-ink-soft">
          {running
            ? 'Pause the run to bring it up to date.'
            : shown && !shown.finished
              ? 'Working it out …'
              : 'Click a point to begin a run with that policy.'}
        </span>
      </div>
      <div className="min-h-0 flex-1">
        {build ? (
          <EChart
            build={build}
            label={`Exact value at the start over ${names.join(' and ')}`}
            onPick={(x, y) => void setPolicy(second ? [x, y] : [x])}
          />
        ) : (
          <p className="mt-16 text-center text-ink-soft">
            {frame ? 'Working it out …' : 'The model is not ready.'}
          </p>
        )}
      </div>
    </>
  )
}

function AxisFields({
  label,
  model,
  choices,
  axis,
  mayBeNone = false,
  without,
  onChange,
}: {
  label: string
  model: Model
  choices: readonly number[]
  axis: AxisChoice | null
  mayBeNone?: boolean
  /** The axis there is already: not its observation again. */
  without?: AxisChoice | null
  onChange(axis: AxisChoice | null): void
}) {
  const free = choices.filter(
    (state) => !without || model.observation[state] !== model.observation[without.state],
  )
  return (
    <div className="flex items-center gap-1.5">
      <LineSelect
        label={label}
        labelled
        className="max-w-40"
        value={axis ? String(axis.state) : ''}
        options={[
          ...(mayBeNone ? [['', 'nothing'] as const] : []),
          ...free.map((state) => [String(state), model.labels[state]] as const),
        ]}
        onChange={(value) =>
          onChange(
            value === ''
              ? null
              : { state: Number(value), action: model.rowAction[model.rowStart[Number(value)]] },
          )
        }
      />
      {axis && (
        <LineSelect
          label={`${label}: probability of`}
          className="max-w-32"
          value={String(axis.action)}
          options={Array.from(
            model.rowAction.subarray(model.rowStart[axis.state], model.rowStart[axis.state + 1]),
            (action) => [String(action), model.actions[action]] as const,
          )}
          onChange={(value) => onChange({ ...axis, action: Number(value) })}
        />
      )}
    </div>
  )
}

/** A state of each observation in which there is something to choose. */
function statesWithChoice(model: Model): number[] {
  const seen = new Set<number>()
  const found: number[] = []
  for (let s = 0; s < model.states && found.length < LISTED; s++) {
    if (model.rowStart[s + 1] - model.rowStart[s] < 2 || seen.has(model.observation[s])) continue
    seen.add(model.observation[s])
    found.push(s)
  }
  return found
}

/** The selected state, else the one episodes start in, else the first. */
function firstAxis(model: Model, choices: readonly number[], selected: number | null): AxisChoice | null {
  const like = (state: number) => choices.find((each) => model.observation[each] === model.observation[state])
  const state = (selected !== null ? like(selected) : undefined) ?? like(model.startState[0]) ?? choices[0]
  return state === undefined ? null : { state, action: model.rowAction[model.rowStart[state]] }
}

function rowOfAxis({ rowStart, rowAction }: Model, { state, action }: AxisChoice): number {
  return rowStart[state] + rowAction.subarray(rowStart[state], rowStart[state + 1]).indexOf(action)
}

function nameOf(model: Model, { state, action }: AxisChoice, scale: LandscapeScale): string {
  return `${LANDSCAPE_SCALES[scale].name} ${model.actions[action]} in ${model.labels[state]}`
}
