'use client'

import { Checkbox } from '../../parts/Checkbox'
import { useMemo, useState } from 'react'
import { useStore } from 'zustand'
import { placeAmong, type RunSummary } from '../../../core/learn/seeds'
import { quantile } from '../../../core/learn/curves'
import { formatCount, formatNumber } from '../../../core/formats/number'
import { choiceBeside, sameButRun } from '../../../core/settings/settings-in-brief'
import { Button } from '../../parts/Button'
import { EChart } from '../../charts/EChart'
import { runsChart } from '../../charts/runs-chart'
import { RunProgress } from '../../parts/RunProgress'
import { LineSelect } from '../../parts/Select'
import { NumberField } from '../../parts/NumberField'
import { useCovered, useModel, useParts } from '../../study/study-context'
import { startSeeds } from '../../../session/learn/start-seeds'

/** Many runs with the settings of this one: was it luck? */
export function SeedsPanel() {
  const parts = useParts()
  const { learn, seeds } = parts
  const compiled = useModel((state) => state.compiled)
  const { choice, running, given, optimum } = useStore(learn.store)
  const state = useStore(seeds.store)
  const covered = useCovered()
  const [size, setSize] = useState(state.size)
  if (!compiled) return null
  const stale = state.choice !== null && (!sameButRun(state.choice, choice) || state.model !== compiled.model)
  // The run on the board is one of them only if it was started with the same settings.
  const alike =
    state.choice !== null && running !== null && given === null && sameButRun(state.choice, running)
  const mine =
    alike && state.model === compiled.model ? state.runs.find(({ run }) => run === running.run) : undefined
  const best = covered ? null : (optimum?.optimum ?? null)
  return (
    <div className="space-y-2">
      <p className="text-[13px] leading-[18px] text-ink-soft">
        The same settings with different random numbers: runs 0, 1, 2 … of seed {choice.seed}.
      </p>
      <div className="flex items-end gap-2">
        <div className="w-20">
          <NumberField label="Runs" whole value={size} min={1} max={500} onChange={setSize} />
        </div>
        {state.running ? (
          <Button onClick={seeds.stop}>Stop</Button>
        ) : (
          <Button
            look={state.runs.length === 0 || stale ? 'ink' : 'plain'}
            onClick={() => startSeeds(parts, size)}
          >
            Run
          </Button>
        )}
        <Checkbox
          className="ml-auto pb-1 text-[13px]"
          checked={state.drawn}
          onChange={(checked) => seeds.setDrawn(checked)}
        >
          Band in the strip
        </Checkbox>
      </div>
      {state.running && <RunProgress done={state.runs.length} asked={state.size} />}
      {state.failure && (
        <p role="alert" className="text-alert">
          {state.failure} Run them again.
        </p>
      )}
      {stale && !state.running && (
        <p role="status" className="text-[13px] text-brass">
          These are runs of {choiceBeside(state.choice!, choice)}
          {state.model !== compiled.model && ' on the environment as it was before'}; the settings have
          changed since.
        </p>
      )}
      {state.runs.length > 0 && state.choice && (
        <>
          <Dots runs={state.runs} mine={mine} />
          <RunsTable runs={state.runs} optimum={best} covered={covered} />
          {mine && (
            <p data-testid="place" className="text-[13px]">
              By mean return, run {formatCount(mine.run)}, the one on the board, is number{' '}
              <b>
                {formatCount(placeAmong(mine, state.runs, ({ mean }) => mean))} of{' '}
                {formatCount(state.runs.length)}
              </b>
              {mine.exact !== null && !covered && (
                <>
                  ;{' '}
                  {formatCount(
                    state.runs.filter(({ exact }) => (exact ?? -Infinity) > mine.exact! + 1e-9).length,
                  )}{' '}
                  learned a better policy
                </>
              )}
              .
            </p>
          )}
          {state.shown !== null && (
            <div className="flex items-center gap-2 text-[13px]">
              Run {state.shown} is the plum line in the strip.
              <Button
                className="!px-1.5 !py-0.5 text-[13px]"
                onClick={() => {
                  learn.choose({ ...state.choice!, run: state.shown! })
                  learn.restart()
                }}
              >
                Watch it on the board
              </Button>
            </div>
          )}
        </>
      )}
    </div>
  )
}

/** Each run as a dot by its returns; a click, or the choice below, draws one of them in the strip. */
function Dots({ runs, mine }: { runs: readonly RunSummary[]; mine: RunSummary | undefined }) {
  const { seeds } = useParts()
  const shown = useStore(seeds.store, (state) => state.shown)
  const build = useMemo(() => runsChart(runs, mine?.run ?? null, shown), [runs, mine, shown])
  const press = (run: number) => seeds.show(run === shown ? null : run)
  return (
    <>
      <div className="h-28">
        <EChart
          small
          build={build}
          label="All runs by their mean return"
          onMark={(name) => press(Number(name))}
        />
      </div>
      <div className="text-[13px]">
        <LineSelect
          label="Draw in the strip"
          labelled
          value={shown === null ? '' : String(shown)}
          options={[
            ['', 'no single run'],
            ...runs.map(
              ({ run, mean }) => [String(run), `run ${run}: mean return ${formatNumber(mean)}`] as const,
            ),
          ]}
          onChange={(run) => seeds.show(run === '' ? null : Number(run))}
        />
      </div>
    </>
  )
}

const STATISTICS = ['minimum', 'lower quartile', 'median', 'upper quartile', 'maximum']

function RunsTable({
  runs,
  optimum,
  covered,
}: {
  runs: readonly RunSummary[]
  optimum: number | null
  covered: boolean
}) {
  const exact = Float64Array.from(runs.flatMap((run) => (run.exact === null ? [] : [run.exact]))).sort()
  const means = Float64Array.from(runs, ({ lastMean }) => lastMean)
    .filter((mean) => !Number.isNaN(mean))
    .sort()
  const reached =
    optimum === null
      ? null
      : exact.filter((value) => value >= optimum - 0.01 * Math.max(1, Math.abs(optimum))).length
  const endless = runs.filter((run) => run.endless).length
  const ran = runs.filter(({ outcome }) => outcome === 'diverged').length
  const row = (name: string, sorted: Float64Array) =>
    sorted.length > 0 && (
      <tr>
        <th scope="row" className="py-0.5 pr-2 text-left font-normal text-ink-soft">
          {name}
        </th>
        {[0, 0.25, 0.5, 0.75, 1].map((part) => (
          <td key={part} className="pl-2 text-right">
            {formatNumber(quantile(sorted, part))}
          </td>
        ))}
      </tr>
    )
  return (
    <>
      <table className="w-full text-[13px]">
        <thead>
          <tr className="border-b border-rule text-ink-soft">
            <td />
            {STATISTICS.map((title) => (
              <th key={title} scope="col" className="pl-2 text-right font-normal">
                {title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {!covered && row('exact value', exact)}
          {row('last returns', means)}
        </tbody>
      </table>
      {reached !== null && exact.length > 0 && (
        <p className="text-[13px]">
          {formatCount(reached)} of {formatCount(exact.length)} runs came within 1 % of the optimum.
        </p>
      )}
      {endless > 0 && (
        <p className="text-[13px]">
          In {formatCount(endless)} of {formatCount(runs.length)} runs the policy may never end from the
          start: undiscounted it has no finite value, and is left out of the exact values.
        </p>
      )}
      {exact.length + endless < runs.length && !covered && (
        <p className="text-[13px]">
          Exact values of {formatCount(exact.length)} of {formatCount(runs.length)} runs: the model is too
          large for the others.
        </p>
      )}
      {means.length < runs.length && (
        <p className="text-[13px]">
          Last returns of {formatCount(means.length)} of {formatCount(runs.length)} runs: the others finished
          no episode.
        </p>
      )}
      {ran > 0 && <p className="text-[13px] text-alert">In {formatCount(ran)} runs the learning diverged.</p>}
    </>
  )
}
