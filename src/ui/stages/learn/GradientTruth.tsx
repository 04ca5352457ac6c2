'use client'

import { useStore } from 'zustand'
import { ESTIMATORS, type EstimatorSummary } from '../../../core/learn/gradient-truth'
import { formatCount, formatNumber, significantNumber } from '../../../core/formats/number'
import type { LearnState } from '../../../session/learn/learn-session'
import { Button } from '../../parts/Button'
import { useCovered, useParts } from '../../study/study-context'

/** Episodes of a measurement. */
const EPISODES = 1000

const degrees = (angle: number | null) => (angle === null ? '–' : `${formatNumber(angle, 0)}°`)

/** How the gradient that was sampled lies to the exact one, for one episode and over many. */
export function GradientTruth() {
  const { learn } = useParts()
  const { truth, measured, frame } = useStore(learn.store)
  // What a policy is truly worth would give hidden pay-offs away.
  if (useCovered()) return null
  const going = measured !== null && measured.episodes < measured.wanted
  return (
    <section aria-label="The exact gradient" className="space-y-1.5 border-t border-rule pt-2">
      <h3 className="font-semibold">Against the exact gradient</h3>
      {truth && <OneEpisode truth={truth} />}
      <div className="flex items-center gap-2">
        <Button onClick={() => learn.measure(going ? 0 : EPISODES)}>
          {going ? 'Stop' : `Measure over ${formatCount(EPISODES)} episodes`}
        </Button>
        {going && (
          <span role="status" className="text-[13px] text-ink-soft">
            {formatCount(measured.episodes)} of {formatCount(measured.wanted)}
          </span>
        )}
      </div>
      {!measured && (
        <p className="text-[13px] text-ink-soft">
          Plays that many episodes with the current policy, without learning, and estimates the gradient from
          each of them in several ways: the variance of the estimates, and where they point on average.
        </p>
      )}
      {measured && (
        <>
          <Estimators summaries={measured.summaries} />
          <p className="text-[13px] text-ink-soft">
            {formatCount(measured.episodes)} episodes with the policy of step {formatCount(measured.step)}
            {frame && frame.steps !== measured.step && ', which is no longer the one on the board'}.{' '}
            {removedInWords(measured.summaries)}
          </p>
        </>
      )}
    </section>
  )
}

function OneEpisode({ truth: { start, norm, match } }: { truth: NonNullable<LearnState['truth']> }) {
  return (
    <p className="text-[13.5px]">
      Before this episode the policy was worth <b>{formatNumber(start, 3)}</b> at the start, and the exact
      gradient had a length of {significantNumber(norm)}.{' '}
      {match.angle === null ? (
        'This episode moves nothing.'
      ) : (
        <>
          This episode points <b>{degrees(match.angle)}</b> away from it
          {match.angle > 90 && ', downhill'}
          {match.ratio !== null && `, and is ${significantNumber(match.ratio)} times as long`}.
        </>
      )}
    </p>
  )
}

const NUMBER = 'px-1 py-0.5 text-right'

function Estimators({ summaries }: { summaries: readonly EstimatorSummary[] }) {
  return (
    <table className="w-full text-[13px]" aria-label="Ways to judge the steps of an episode">
      <thead className="text-ink-soft">
        <tr className="border-b border-rule-strong">
          <th className="py-0.5 text-left">estimated from</th>
          <th className={NUMBER} title="Of each component of the gradient, summed up">
            variance
          </th>
          <th className={NUMBER} title="Between the gradient of a single episode and the exact one">
            one episode
          </th>
          <th className={NUMBER} title="Between the mean of all episodes and the exact gradient">
            mean of all
          </th>
        </tr>
      </thead>
      <tbody>
        {summaries.map(({ estimator, variance, meanAngle, match }) => (
          <tr key={estimator} className="border-b border-rule/60">
            <th className="py-0.5 text-left font-normal">{ESTIMATORS[estimator]}</th>
            <td className={`${NUMBER} font-semibold`}>{significantNumber(variance)}</td>
            <td className={NUMBER}>{degrees(meanAngle)} off</td>
            <td className={NUMBER}>{degrees(match.angle)} off</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** What a baseline takes off the variance. */
function removedInWords(summaries: readonly EstimatorSummary[]): string {
  const variance = (estimator: EstimatorSummary['estimator']) =>
    summaries.find((each) => each.estimator === estimator)?.variance
  const plain = variance('returns')
  if (!plain) return ''
  const share = (part: number) => `${formatNumber((1 - part / plain) * 100, 0)} %`
  const own = variance('baseline')
  const exact = variance('exact')
  const said = (name: string, part: number) =>
    part <= plain
      ? `${name} removes ${share(part)} of the variance.`
      : `${name} adds to the variance: it is ${significantNumber(part / plain)} times as large.`
  return [
    ...(own === undefined ? [] : [said('The baseline of the run', own)]),
    ...(exact === undefined ? [] : [said('A baseline of the exact values', exact)]),
  ].join(' ')
}
