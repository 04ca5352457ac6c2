'use client'

import { useMemo } from 'react'
import { useStore } from 'zustand'
import { formatCount, formatNumber } from '../../../core/formats/number'
import { EChart } from '../../charts/EChart'
import { learnChart } from '../../charts/learn-chart'
import { useParts } from '../../study/study-context'
import { useCovered } from '../../study/use-overlay'
import { Readout } from '../../timeline/Readout'
import { SpeedSlider } from '../../timeline/SpeedSlider'
import { Transport } from '../../timeline/Transport'

const SPEEDS = [1, 3, 10, 30, 100, 1000, 10_000, 100_000]
const WINDOWS = [1, 10, 50, 100, 500]

/** The run as a strip: the return of each episode with its rolling mean, and the optimum. */
export function LearnTimeline() {
  const { learn } = useParts()
  const { frame, optimum: best, running, speed, window: rolling } = useStore(learn.store)
  // The optimum, and what a policy is truly worth, would give hidden pay-offs away.
  const covered = useCovered()
  const optimum = covered ? null : best
  const curve = frame?.curve
  const episodes = running?.episodes ?? 1
  const build = useMemo(
    () => (curve ? learnChart(curve, episodes, optimum) : null),
    [curve, episodes, optimum],
  )
  const done = frame?.done ?? false
  const idle = !frame || done
  return (
    <footer className="flex h-48 shrink-0 gap-4 border-t border-rule-strong px-4 py-2.5">
      <div className="flex w-52 flex-col justify-center gap-2.5">
        <Transport
          presses={[
            frame?.running
              ? { icon: 'pause', label: 'Pause', shortcut: 'P', strong: true, onPress: learn.pause }
              : {
                  icon: 'play',
                  label: 'Play',
                  shortcut: 'P',
                  strong: true,
                  disabled: idle,
                  onPress: learn.run,
                },
            {
              icon: 'forward',
              label: 'One step',
              shortcut: '.',
              disabled: idle,
              onPress: () => learn.step('step'),
            },
            {
              icon: 'end',
              label: 'To the end of the episode',
              shortcut: 'N',
              disabled: idle,
              onPress: () => learn.step('episode'),
            },
            { icon: 'restart', label: 'Start over', disabled: !frame?.steps, onPress: learn.restart },
          ]}
        />
        <SpeedSlider speeds={SPEEDS} unit="step" speed={speed} onChange={learn.setSpeed} />
        <label className="flex items-center gap-2 text-[13px] text-ink-soft">
          Mean over
          <select
            className="rounded-sm border border-rule-strong bg-sheet px-1 text-ink"
            value={rolling}
            onChange={(event) => learn.setWindow(Number(event.target.value))}
          >
            {WINDOWS.map((each) => (
              <option key={each} value={each}>
                {each}
              </option>
            ))}
          </select>
          episodes
        </label>
      </div>
      <div className="min-w-0 flex-1">
        {build && (
          <EChart
            build={build}
            label={`Return of each episode, ${frame?.episodes ?? 0} so far, with the mean of the last ${rolling} and the optimum`}
          />
        )}
      </div>
      <div className="w-64">
        <Readout
          items={[
            ['Episodes', `${formatCount(frame?.episodes ?? 0)} of ${formatCount(episodes)}`],
            ['Steps', formatCount(frame?.steps ?? 0)],
            frame?.rate
              ? ['Steps a second', formatCount(frame.rate)]
              : [
                  'State of the run',
                  done ? 'done' : frame?.running ? 'learning' : frame?.steps ? 'paused' : 'ready',
                ],
            [`Mean return, last ${rolling}`, curve?.mean.length ? formatNumber(curve.mean.at(-1)!) : '–'],
            ['Policy’s exact value', covered ? 'hidden' : formatNumber(frame?.exactValue ?? NaN)],
            ['Optimum', covered ? 'hidden' : formatNumber(optimum ?? NaN)],
          ]}
        />
      </div>
    </footer>
  )
}
