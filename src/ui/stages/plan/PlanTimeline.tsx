'use client'

import { useMemo } from 'react'
import { useStore } from 'zustand'
import { formatCount, formatNumber, significantNumber } from '../../../core/formats/number'
import { startValue } from '../../../core/model/model'
import { planMethod } from '../../../core/plan/plan-methods'
import { EChart } from '../../charts/EChart'
import { planChart, stripEnd, type PlanStrip } from '../../charts/plan-chart'
import { Button } from '../../parts/Button'
import { LineSelect } from '../../parts/Select'
import { useCovered, useModel, useParts } from '../../study/study-context'
import { Readout } from '../../timeline/Readout'
import { Strip } from '../../timeline/Strip'
import { SpeedSlider } from '../../timeline/SpeedSlider'
import { Transport } from '../../timeline/Transport'
import type { PlanFrame, PlanUnit } from '../../../hosts/protocol/plan'

const SPEEDS = [1, 2, 4, 10, 30]
const UNITS: Record<PlanUnit, string> = { sweep: 'sweeps', backup: 'single backups' }

const OUTCOMES = {
  running: 'going on',
  converged: 'within tolerance',
  'never-ends': 'no finite value',
  improper: 'no finite value',
  'gains-for-ever': 'no finite value',
  'too-large': 'too large',
  'budget-spent': 'limit of sweeps',
} as const

export function stateOf(frame: PlanFrame | null): string {
  if (!frame) return 'compiling'
  if (frame.reached === 0 && frame.status.outcome === 'running') return 'not begun'
  if (frame.done !== null) return 'within a sweep'
  if (planMethod(frame.method).staged && frame.finished) return 'all steps done'
  if (frame.status.outcome !== 'running' || !frame.holdsPolicy) return OUTCOMES[frame.status.outcome]
  return frame.phase === 'evaluate' || frame.phase === 'solve' ? 'evaluating' : 'improved'
}

/** The plan as a strip: the largest change of each sweep, with a head that goes both ways. */
export function PlanTimeline() {
  const { plan, beside, drive } = useParts()
  const { frame, changes, work, speed, unit, method, beside: second, discount } = useStore(plan.store)
  const other = useStore(beside.store)
  const two = second !== null
  const running = planMethod(frame?.method ?? method)
  const staged = running.staged === true
  // While it goes on, nobody knows whether they settled.
  const settled =
    frame &&
    frame.status.outcome === 'converged' &&
    !staged &&
    running.purpose === 'control' &&
    frame.reached > 1
      ? frame.settled
      : null
  const head = two ? (frame?.backups ?? 0) : (frame?.sweep ?? 0)
  const strip = useMemo<PlanStrip>(
    () => ({
      curves: [
        { title: running.title, changes, work },
        ...(two ? [{ title: planMethod(other.method).title, changes: other.changes, work: other.work }] : []),
      ],
      along: two ? 'backups' : 'sweep',
      head,
      rate: running.contracts ? discount : null,
      unit: staged ? 'steps to go' : undefined,
      settled,
    }),
    [running, changes, work, two, other.method, other.changes, other.work, head, discount, staged, settled],
  )
  const build = useMemo(() => planChart(strip), [strip])
  const sweep = frame?.sweep ?? 0
  const atStart = sweep === 0
  const finished = (frame?.finished ?? false) && (!two || (other.frame?.finished ?? true))
  const waiting = frame ? null : 'the model is not ready'
  const begins = waiting ?? (atStart ? 'the plan is at its start' : null)
  const ends = waiting ?? (finished ? 'the plan is finished' : null)
  const step = unit === 'sweep' ? (staged ? 'stage' : 'sweep') : 'backup'
  const move = (to: number) => (two ? drive.match(to) : drive.go(to))
  return (
    <Strip
      controls={
        <>
          <Transport
            presses={[
              { icon: 'start', label: 'To the start', blocked: begins, onPress: drive.toStart },
              {
                icon: 'back',
                label: `One ${step} back`,
                shortcut: unit === 'sweep' ? ',' : '<',
                blocked: begins,
                onPress: () => drive.step('back'),
              },
              frame?.running || (two && other.frame?.running)
                ? { icon: 'pause', label: 'Pause', shortcut: 'P', strong: true, onPress: drive.pause }
                : {
                    icon: 'play',
                    label: 'Play',
                    shortcut: 'P',
                    strong: true,
                    blocked: ends,
                    onPress: drive.run,
                  },
              {
                icon: 'forward',
                label: `One ${step}`,
                shortcut: unit === 'sweep' ? '.' : '>',
                blocked: ends,
                onPress: () => drive.step('on'),
              },
              {
                icon: 'end',
                label: 'To the end',
                blocked: ends,
                onPress: () => drive.finish(),
              },
            ]}
          />
          <div className="text-[13px]">
            <LineSelect
              label="Step by"
              labelled
              value={unit}
              options={(Object.keys(UNITS) as PlanUnit[]).map((each) => [
                each,
                each === 'sweep' && staged ? 'stages' : UNITS[each],
              ])}
              onChange={(each) => plan.setUnit(each as PlanUnit)}
            />
          </div>
          {running.alternates && (
            <div className="flex gap-1">
              <Button
                className="!px-1.5 !py-0.5 text-[13px]"
                title="Evaluate to the end (E)"
                disabled={ends !== null}
                why={ends ?? undefined}
                onClick={() => drive.finish('evaluated')}
              >
                Evaluate
              </Button>
              <Button
                className="!px-1.5 !py-0.5 text-[13px]"
                title="On to the next improvement (I)"
                disabled={ends !== null}
                why={ends ?? undefined}
                onClick={() => drive.finish('improved')}
              >
                Improve once
              </Button>
            </div>
          )}
          <SpeedSlider speeds={SPEEDS} unit={[step, `${step}s`]} speed={speed} onChange={plan.setSpeed} />
        </>
      }
      chart={(large) => (
        <EChart
          large={large}
          build={build}
          label={`Largest change of a value in each of ${changes.length} sweeps; now at sweep ${sweep}`}
          onPick={(x) => move(Math.round(x))}
        />
      )}
      slider={
        <input
          type="range"
          className="mr-[18px] ml-[56px]"
          min={0}
          max={stripEnd(strip)}
          value={head}
          disabled={!frame?.reached}
          aria-label={two ? 'Backups' : staged ? 'Steps to go' : 'Sweep'}
          onChange={(event) => move(Number(event.target.value))}
        />
      }
      readout={<PlanReadout frame={frame} />}
    />
  )
}

/** The numbers of a plan at its moment. */
function PlanReadout({ frame }: { frame: PlanFrame | null }) {
  const covered = useCovered()
  const model = useModel((state) => state.compiled?.model)
  const staged = frame !== null && planMethod(frame.method).staged === true
  const sweep = frame?.sweep ?? 0
  const shown = (value: number | undefined) =>
    value !== undefined && Number.isFinite(value) && sweep > 0 ? significantNumber(value) : '–'
  return (
    <Readout
      items={[
        [staged ? 'Steps to go' : 'Sweep', `${formatCount(sweep)} of ${formatCount(frame?.reached ?? 0)}`],
        ...(frame?.done != null
          ? [['Backed up', `${formatCount(frame.done)} of ${formatCount(frame.length)}`] as const]
          : []),
        ['Largest change', shown(frame?.change)],
        ['Error at most', shown(frame?.bound)],
        [
          'Value at the start',
          model && frame && frame.values.length === model.states && !covered
            ? formatNumber(startValue(model, frame.values), 4)
            : '–',
        ],
        ['Backups', frame ? formatCount(frame.backups) : '–'],
        ['Status', stateOf(frame)],
      ]}
    />
  )
}
