'use client'

import { useMemo } from 'react'
import { useStore } from 'zustand'
import { formatCount, formatNumber, significantNumber } from '../../../core/formats/number'
import { startValue } from '../../../core/model/model'
import { EChart } from '../../charts/EChart'
import { planChart, sweepAxis } from '../../charts/plan-chart'
import { isFinished } from '../../study/run-state'
import { useModel, useParts } from '../../study/study-context'
import { useCovered } from '../../study/use-overlay'
import { Readout } from '../../timeline/Readout'
import { SpeedSlider } from '../../timeline/SpeedSlider'
import { Transport } from '../../timeline/Transport'
import type { PlanFrame } from '../../../workers/protocol'

const SPEEDS = [1, 2, 4, 10, 30]

const OUTCOMES = {
  running: 'going on',
  converged: 'within tolerance',
  'never-ends': 'no finite value',
  improper: 'no finite value',
  'gains-for-ever': 'no finite value',
  'budget-spent': 'limit of sweeps',
} as const

function stateOf(frame: PlanFrame | null): string {
  if (!frame) return 'compiling'
  if (frame.reached === 0 && frame.status.outcome === 'running') return 'not begun'
  if (frame.status.outcome !== 'running' || !frame.policy) return OUTCOMES[frame.status.outcome]
  return frame.phase === 'evaluate' ? 'evaluating' : 'improved'
}

/** The plan as a strip: the largest change of each sweep, with a head that goes both ways. */
export function PlanTimeline() {
  const { plan } = useParts()
  const { frame, changes, speed } = useStore(plan.store)
  const covered = useCovered()
  const model = useModel((state) => state.compiled?.model)
  const sweep = frame?.sweep ?? 0
  const build = useMemo(() => planChart(changes, sweep), [changes, sweep])
  const finished = isFinished(frame)
  const disabled = !frame
  return (
    <footer className="flex h-44 shrink-0 gap-4 border-t border-rule-strong px-4 py-2.5">
      <div className="flex w-52 flex-col justify-center gap-2.5">
        <Transport
          presses={[
            {
              icon: 'start',
              label: 'To the start',
              disabled: disabled || sweep === 0,
              onPress: () => plan.go(0),
            },
            {
              icon: 'back',
              label: 'One sweep back',
              shortcut: ',',
              disabled: disabled || sweep === 0,
              onPress: () => plan.go(sweep - 1),
            },
            frame?.running
              ? { icon: 'pause', label: 'Pause', shortcut: 'P', strong: true, onPress: plan.pause }
              : {
                  icon: 'play',
                  label: 'Play',
                  shortcut: 'P',
                  strong: true,
                  disabled: disabled || finished,
                  onPress: plan.run,
                },
            {
              icon: 'forward',
              label: 'One sweep',
              shortcut: '.',
              disabled: disabled || finished,
              onPress: plan.sweep,
            },
            { icon: 'end', label: 'To the end', disabled: disabled || finished, onPress: plan.finish },
          ]}
        />
        <SpeedSlider speeds={SPEEDS} unit="sweep" speed={speed} onChange={plan.setSpeed} />
      </div>
      <div className="flex min-w-0 flex-1 flex-col">
        <div className="min-h-0 flex-1">
          <EChart
            build={build}
            label={`Largest change of a value in each of ${changes.length} sweeps; now at sweep ${sweep}`}
            onPick={(x) => plan.go(Math.round(x))}
          />
        </div>
        <input
          type="range"
          className="mr-[18px] ml-[56px]"
          min={0}
          max={sweepAxis(changes.length)}
          value={sweep}
          disabled={!frame?.reached}
          aria-label="Sweep"
          onChange={(event) => plan.go(Number(event.target.value))}
        />
      </div>
      <div className="w-60">
        <Readout
          items={[
            ['Sweep', `${formatCount(sweep)} of ${formatCount(frame?.reached ?? 0)}`],
            [
              'Largest change',
              frame && Number.isFinite(frame.change) && sweep > 0 ? significantNumber(frame.change) : '–',
            ],
            [
              'Error at most',
              frame && Number.isFinite(frame.bound) && sweep > 0 ? significantNumber(frame.bound) : '–',
            ],
            [
              'Value at the start',
              model && frame && frame.values.length === model.states && !covered
                ? formatNumber(startValue(model, frame.values), 4)
                : '–',
            ],
            ['Backups', frame ? formatCount(frame.backups) : '–'],
            ['State of the plan', stateOf(frame)],
          ]}
        />
      </div>
    </footer>
  )
}
