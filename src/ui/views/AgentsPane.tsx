'use client'

import { useMemo } from 'react'
import { useStore } from 'zustand'
import { agentName } from '../../core/compare/agents'
import { triedChoices, variable } from '../../core/compare/variables'
import {
  lastPulls,
  meanBand,
  type MeanBand,
  PULL_MEASURE_IDS,
  PULL_MEASURES,
  type PullMeasure,
} from '../../core/compare/pull-sums'
import type { Compiled } from '../../core/kinds/kinds'
import { formatCount } from '../../core/formats/number'
import { agentNames, isBandit, taskKey, type AgentsState } from '../../session/learn/agents-session'
import type { BanditDocument } from '../../core/compare/pull-task'
import { bandChart, fraction, type BandLine } from '../charts/band-chart'
import { EChart } from '../charts/EChart'
import { Button } from '../parts/Button'
import { Checkbox } from '../parts/Checkbox'
import { LineSelect } from '../parts/Select'
import { useCovered, useParts, useStudy } from '../study/study-context'

/** Many agents in one picture: curves over the pulls, or what a setting does. */
export function AgentsPane(_: { compiled: Compiled | null }) {
  const { agents } = useParts()
  const document = useStudy((state) => state.document)
  const covered = useCovered()
  const state = useStore(agents.store)
  const { picture, measure: wanted, logarithmic, bands, pulls, range, running, done, asked } = state
  // What the best arm is would give the truth away.
  const measure = covered ? 'reward' : wanted
  const lines = useMemo(
    () =>
      isBandit(document)
        ? picture === 'curves'
          ? curvesOf(state, document, measure)
          : studyLines(state, document)
        : [],
    [state, document, picture, measure],
  )
  const build = useMemo(
    () =>
      lines.length
        ? picture === 'curves'
          ? bandChart(lines, {
              x: { name: 'pull', min: logarithmic ? 1 : 0, max: pulls },
              along: logarithmic ? 'tens' : 'even',
              y: PULL_MEASURES[measure].axis,
              share: PULL_MEASURES[measure].share,
              bands,
            })
          : bandChart(lines, {
              x: { name: 'value of the setting', min: range.from, max: range.to },
              along: 'doublings',
              y: `average reward over the first ${formatCount(pulls)} pulls`,
              share: false,
              bands,
            })
        : null,
    [lines, picture, measure, logarithmic, pulls, range, bands],
  )
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1.5 text-[13px]">
        <LineSelect
          label="Picture"
          labelled
          value={picture}
          options={[
            ['curves', 'curves over the pulls'],
            ['study', 'study of a setting'],
          ]}
          onChange={(value) => agents.set({ picture: value as AgentsState['picture'] })}
        />
        {picture === 'curves' && (
          <LineSelect
            label="of"
            labelled
            hint={PULL_MEASURES[measure].hint}
            value={measure}
            options={PULL_MEASURE_IDS.filter((id) => !covered || id === 'reward').map(
              (id) => [id, PULL_MEASURES[id].title.toLowerCase()] as const,
            )}
            onChange={(value) => agents.set({ measure: value as PullMeasure })}
          />
        )}
        {picture === 'curves' && (
          <Checkbox
            checked={logarithmic}
            title="Pulls by equal factors: what grows like the logarithm is a straight line"
            onChange={(checked) => agents.set({ logarithmic: checked })}
          >
            logarithmic axis
          </Checkbox>
        )}
        <Checkbox
          checked={bands}
          title="1.96 standard errors of the mean to either side"
          onChange={(checked) => agents.set({ bands: checked })}
        >
          95 % intervals
        </Checkbox>
        {running && (
          <span role="status" className="text-ink-soft">
            {formatCount(done)} of {formatCount(asked)} runs …
          </span>
        )}
      </div>
      <div className="min-h-0 flex-1">
        {build ? (
          <EChart
            build={build}
            label={
              picture === 'curves'
                ? `${PULL_MEASURES[measure].title} over ${formatCount(pulls)} pulls: ${lines.map(({ title }) => title).join('; ')}`
                : `Average reward over a setting: ${lines.map(({ title }) => title).join('; ')}`
            }
          />
        ) : (
          <div className="mt-16 space-y-3 text-center text-ink-soft">
            <p>
              {picture === 'curves'
                ? 'Many runs of each agent of the tab Agents, in one picture.'
                : `Each agent with one setting at values from ${fraction(range.from)} to ${fraction(range.to)}, in one picture.`}
            </p>
            {!running && (
              <Button look="ink" onClick={() => agents.start(document)}>
                Run them
              </Button>
            )}
          </div>
        )}
      </div>
    </>
  )
}

/** A curve for each agent that has some runs. */
function curvesOf(state: AgentsState, document: BanditDocument, measure: PullMeasure): BandLine[] {
  const { agents, hidden, results, runs, pulls } = state
  const names = agentNames(agents)
  const x = lastPulls(pulls)
  return agents.flatMap(({ id, choice }, i): BandLine[] => {
    const sums = results[taskKey(document, choice, runs, pulls)]
    if (hidden.has(id) || !sums?.runs) return []
    return [{ title: names[i], look: id, x, ...aroundMean(meanBand(sums, sums.measures[measure])) }]
  })
}

/** The score of each agent over the values of its setting. */
function studyLines(state: AgentsState, document: BanditDocument): BandLine[] {
  const { agents, hidden, results, runs, pulls, range } = state
  // Agents that differ in nothing but what is varied are one line.
  const drawn = new Set<string>()
  return agents.flatMap((agent): BandLine[] => {
    if (hidden.has(agent.id)) return []
    const tried = triedChoices(agent.choice, agent.varied, range)
    const line = tried.length > 0 && taskKey(document, tried[0].choice, runs, pulls)
    if (!line || drawn.has(line)) return []
    drawn.add(line)
    const points = tried.flatMap(({ value, choice }) => {
      const sums = results[taskKey(document, choice, runs, pulls)]
      if (!sums?.runs) return []
      const { middle, low, high } = aroundMean(meanBand(sums, sums.score))
      return [{ value, middle: middle[0], low: low[0], high: high[0] }]
    })
    if (!points.length) return []
    return [
      {
        title: `${agentName(agent.choice, agent.varied)}: ${variable(agent.varied).name(agent.choice)}`,
        look: agent.id,
        x: points.map(({ value }) => value),
        middle: points.map(({ middle }) => middle),
        low: points.map(({ low }) => low),
        high: points.map(({ high }) => high),
      },
    ]
  })
}

/** The mean, and the ends of its interval. */
function aroundMean({ mean, error }: MeanBand): Pick<BandLine, 'middle' | 'low' | 'high'> {
  return {
    middle: mean,
    low: mean.map((value, i) => value - error[i]),
    high: mean.map((value, i) => value + error[i]),
  }
}
