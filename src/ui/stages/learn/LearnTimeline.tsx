'use client'

import { useMemo } from 'react'
import { useStore } from 'zustand'
import { formatCount, formatNumber } from '../../../core/formats/number'
import { EXACT_STATES } from '../../../core/limits'
import { seedsBand } from '../../../core/learn/seeds'
import { learnMethod } from '../../../core/learn/methods/methods'
import { choiceBeside } from '../../../core/settings/settings-in-brief'
import { standsAfter, type Schedule } from '../../../core/learn/schedule'
import { EXPLORATIONS } from '../../../core/learn/explore/explorations'
import { startValue } from '../../../core/model/model'
import { EChart } from '../../charts/EChart'
import { learnChart, learnStripEnd, type LearnStrip } from '../../charts/learn-chart'
import { LineSelect } from '../../parts/Select'
import { useCovered, useModel, useParts } from '../../study/study-context'
import { Readout } from '../../timeline/Readout'
import { Strip } from '../../timeline/Strip'
import { SpeedSlider } from '../../timeline/SpeedSlider'
import { Transport } from '../../timeline/Transport'
import type { LearnFrame, LearnUnit } from '../../../hosts/protocol/learn'

const SPEEDS = [1, 3, 10, 30, 100, 1000, 10_000, 100_000]
const WINDOWS = [1, 10, 50, 100, 500]

/** The run as a strip, with a head that goes both ways: returns with their rolling mean, the optimum, the rates. */
export function LearnTimeline() {
  const { learn, seeds } = useParts()
  const many = useStore(seeds.store)
  const model = useModel((state) => state.compiled?.model)
  const band = useMemo(
    () => (many.drawn && many.model === model && many.runs.length > 1 ? seedsBand(many.runs) : null),
    [many.drawn, many.model, many.runs, model],
  )
  const { frame, optimum: best, running, speed, window: rolling } = useStore(learn.store)
  // The optimum, and what a policy is truly worth, would give hidden pay-offs away.
  const covered = useCovered()
  const optimum = covered ? null : (best?.optimum ?? null)
  const strip = useMemo<LearnStrip | null>(() => {
    if (!frame || !running) return null
    const { settings, purpose, tableHolds } = learnMethod(running.method)
    return {
      curve: frame.curve,
      episodes: running.episodes,
      head: frame.episodes,
      optimum,
      optimumTitle: purpose === 'control' ? 'optimum' : 'the policy’s exact value',
      marks:
        covered || purpose === 'prediction'
          ? null
          : {
              ...frame.marks,
              title: tableHolds === 'preferences' ? 'value of the policy' : 'value of the greedy policy',
            },
      seeds: band &&
        many.choice && {
          title: choiceBeside(many.choice, running),
          episodes: many.episodes,
          band,
          size: many.runs.length,
          single: many.runs.find(({ run }) => run === many.shown) ?? null,
        },
      rates: [
        ...(settings.includes('exploration')
          ? [
              {
                title: EXPLORATIONS[running.exploration.way].level.toLowerCase(),
                schedule: running.exploration.level,
              },
            ]
          : []),
        ...(settings.includes('learningRate')
          ? [
              {
                title: 'learning rate',
                schedule: running.learningRate,
                after: running.exploration.level,
              },
            ]
          : []),
      ],
      cells: frame.cells,
    }
  }, [frame, running, optimum, covered, band, many.choice, many.episodes, many.runs, many.shown])
  const build = useMemo(() => (strip ? learnChart(strip) : null), [strip])
  const waiting = frame ? null : 'the model is not ready'
  const begins = waiting ?? (frame!.steps === frame!.first ? 'the run is at its start' : null)
  const ends = waiting ?? (frame!.done ? 'the run is over' : null)
  return (
    <Strip
      controls={
        <>
          <Transport
            presses={[
              { icon: 'start', label: 'To the start', blocked: begins, onPress: () => learn.go('step', 0) },
              {
                icon: 'back',
                label: 'One step back',
                shortcut: ',',
                blocked: begins,
                onPress: () => learn.step('step', 'back'),
              },
              frame?.running
                ? { icon: 'pause', label: 'Pause', shortcut: 'P', strong: true, onPress: learn.pause }
                : {
                    icon: 'play',
                    label: 'Play',
                    shortcut: 'P',
                    strong: true,
                    blocked: ends,
                    onPress: learn.run,
                  },
              {
                icon: 'forward',
                label: 'One step',
                shortcut: '.',
                blocked: ends,
                onPress: () => learn.step('step'),
              },
              {
                icon: 'end',
                label: 'To the end of the episode',
                shortcut: 'N',
                blocked: ends,
                onPress: () => learn.step('episode'),
              },
            ]}
          />
          <JumpTo frame={frame} schedule={running?.exploration.level ?? null} />
          <SpeedSlider speeds={SPEEDS} unit={['step', 'steps']} speed={speed} onChange={learn.setSpeed} />
          <div className="flex items-center gap-2 text-[13px] text-ink-soft">
            <LineSelect
              label="Mean over"
              labelled
              value={String(rolling)}
              options={WINDOWS.map((each) => [String(each), String(each)])}
              onChange={(each) => learn.setWindow(Number(each))}
            />
            episodes
          </div>
        </>
      }
      chart={(large) =>
        build && (
          <EChart
            large={large}
            build={build}
            label={`Return of each episode, ${frame?.reachedEpisodes ?? 0} so far, with the mean of the last ${rolling}, the optimum, exploration and learning rate`}
            onPick={(x) => learn.go('episode', Math.round(x))}
          />
        )
      }
      slider={
        <input
          type="range"
          className="mr-[44px] ml-[56px]"
          min={0}
          max={strip ? learnStripEnd(strip) : 1}
          value={frame?.episodes ?? 0}
          disabled={!frame?.reached}
          aria-label="Episode"
          title="Goes to the end of any episode, back and forth"
          onChange={(event) => learn.go('episode', Number(event.target.value))}
        />
      }
      readout={
        <LearnReadout frame={frame} episodes={running?.episodes ?? 1} rolling={rolling} optimum={optimum} />
      }
    />
  )
}

/** Moments worth going to, of those that were. */
function JumpTo({ frame, schedule }: { frame: LearnFrame | null; schedule: Schedule | null }) {
  const { learn } = useParts()
  if (!frame || !schedule) return null
  const floor = standsAfter(schedule)
  const bySteps = 'per' in schedule && schedule.per === 'step'
  const moments: { title: string; unit: LearnUnit; count: number }[] = [
    ...(frame.firstEnded > 0
      ? [{ title: 'the first ending', unit: 'episode' as const, count: frame.firstEnded }]
      : []),
    ...(floor > 0 && floor <= (bySteps ? frame.reached : frame.reachedEpisodes)
      ? [
          {
            title: 'exploration at its final value',
            unit: bySteps ? ('step' as const) : ('episode' as const),
            count: floor,
          },
        ]
      : []),
    ...(frame.reached > frame.steps
      ? [{ title: 'the end so far', unit: 'step' as const, count: frame.reached }]
      : []),
  ]
  return (
    <div className="text-[13px]">
      <LineSelect
        label="Jump to"
        labelled
        value=""
        disabled={moments.length === 0}
        options={[['', '…'], ...moments.map(({ title }, i) => [String(i), title] as const)]}
        onChange={(chosen) => {
          const moment = chosen === '' ? undefined : moments[Number(chosen)]
          if (moment) learn.go(moment.unit, moment.count)
        }}
      />
    </div>
  )
}

function LearnReadout({
  frame,
  episodes,
  rolling,
  optimum,
}: {
  frame: LearnFrame | null
  episodes: number
  rolling: number
  optimum: number | null
}) {
  const covered = useCovered()
  const model = useModel((state) => state.compiled?.model)
  const at = frame ? meanAt(frame) : undefined
  // Prediction learns what a policy is worth, not the best there is.
  const predicted =
    model && frame && frame.rowValues === null && frame.values.length === model.states
      ? startValue(model, frame.values)
      : null
  const behind = frame && frame.steps < frame.reached
  return (
    <Readout
      items={[
        ['Episodes', `${formatCount(frame?.episodes ?? 0)} of ${formatCount(episodes)}`],
        ['Steps', `${formatCount(frame?.steps ?? 0)}${behind ? ` of ${formatCount(frame.reached)}` : ''}`],
        frame?.rate ? ['Steps a second', formatCount(frame.rate)] : ['Status', stateOf(frame)],
        [`Mean discounted return, last ${rolling}`, at === undefined ? '–' : formatNumber(at)],
        ['Policy’s value at the start', covered ? 'hidden' : exactInWords(frame)],
        predicted === null
          ? ['Optimal value at the start', covered ? 'hidden' : formatNumber(optimum ?? NaN)]
          : ['Value learned for the start', formatNumber(predicted)],
      ]}
    />
  )
}

function stateOf(frame: LearnFrame | null): string {
  if (!frame) return 'compiling'
  if (frame.running) return 'learning'
  if (!frame.done) return frame.steps < frame.reached ? 'earlier moment' : frame.steps ? 'paused' : 'ready'
  return frame.status.outcome === 'diverged' ? 'diverged' : 'done'
}

/** The exact value, or why there is none: a policy that never ends somewhere is worth no finite number undiscounted. */
function exactInWords(frame: LearnFrame | null): string {
  if (frame?.exactValue != null) return formatNumber(frame.exactValue)
  return frame && frame.steps > 0 && frame.values.length <= EXACT_STATES ? 'not finite' : '–'
}

/** The rolling mean at the episode where the head is, of those the curve has kept. */
function meanAt({ curve, episodes }: LearnFrame): number | undefined {
  if (episodes === 0) return undefined
  let place = curve.episode.findIndex((episode) => episode >= episodes)
  if (place < 0) place = curve.episode.length - 1
  return curve.mean[place]
}
