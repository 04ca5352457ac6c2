'use client'

import { useMemo } from 'react'
import { useStore } from 'zustand'
import { STRETCH } from '../../../core/compare/learning-runs'
import { advantageOf, changeOf, differenceOf, meanWithError } from '../../../core/compare/run-statistics'
import { scoreOf, scoresOf } from '../../../core/compare/scores'
import { fixedNumber, formatCount } from '../../../core/formats/number'
import { fingerprintText } from '../../../core/model/fingerprint'
import { Button } from '../../parts/Button'
import { Section } from '../../parts/Section'
import { useCovered, useParts } from '../../study/study-context'
import type { Drawn } from '../../views/comparison-lines'
import { shownScore } from '../../views/shown-told'
import { ScoreSelect } from './ScoreSelect'

/** Runs that can be asked for at the most. */
const MOST_RUNS = 10_000

/** What the runs came to, best first, and whether that was luck. */
export function Verdicts({ drawn }: { drawn: readonly Drawn[] }) {
  const { compare } = useParts()
  const { view } = useStore(compare.store, ({ comparison }) => comparison)
  const covered = useCovered()
  const wanted = shownScore(view.score, covered)
  const score = view.picture === 'trials' && !scoreOf(wanted).trials ? 'trials' : wanted
  const ranked = useMemo(() => {
    const { smaller = false } = scoreOf(score)
    return drawn
      .map((each) => {
        const numbers = scoresOf(each.runs, scoreOf(score))
        return { ...each, count: numbers.length, ...meanWithError(numbers) }
      })
      .filter(({ count }) => count > 0)
      .sort((x, y) => (smaller ? x.mean - y.mean : y.mean - x.mean))
  }, [drawn, score])
  if (!drawn.length) return null
  const [best, ...others] = ranked
  return (
    <Section title="Was it luck?">
      <ScoreSelect />
      <table className="w-full text-[13px]">
        <caption className="sr-only">Mean over the runs, with half the width of its 95 % interval</caption>
        <thead>
          <tr className="border-b border-rule text-ink-soft">
            <th scope="col" className="text-left font-normal">
              contestant
            </th>
            <th scope="col" className="pl-2 text-right font-normal">
              runs
            </th>
            <th
              scope="col"
              className="pl-2 text-right font-normal"
              title="Mean, and 1.96 standard errors of it"
            >
              mean
            </th>
          </tr>
        </thead>
        <tbody>
          {ranked.map(({ contestant, name, runs, count, mean, error, stale }) => (
            <tr key={contestant.id} className={stale ? 'text-ink-soft' : ''}>
              <th
                scope="row"
                className="py-0.5 pr-2 text-left font-normal"
                title={`Seed ${contestant.choice.seed}, environment ${fingerprintText(runs[0].fingerprint)}, program ${runs[0].program}`}
              >
                {name}
              </th>
              <td className="pl-2 text-right">{formatCount(count)}</td>
              <td className="pl-2 text-right whitespace-nowrap">
                {fixedNumber(mean)}
                {count > 1 && ` ± ${fixedNumber(error)}`}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {best &&
        others.map((other) => <Verdict key={other.contestant.id} best={best} other={other} score={score} />)}
      {ranked.length < drawn.length && (
        <p className="text-[13px] text-ink-soft">
          The others have no such score: run them for it; or no episode was finished, or the model is too
          large for exact values.
        </p>
      )}
      {score === `next-${STRETCH}` && <Progress drawn={drawn} />}
    </Section>
  )
}

/** Whether one contestant is better than another, in words. */
function Verdict({ best, other, score }: { best: Drawn; other: Drawn; score: string }) {
  const { compare } = useParts()
  const difference = useMemo(() => differenceOf(best.runs, other.runs, score), [best, other, score])
  if (!difference) return null
  const { runs, better, worse, needed } = difference
  const { mean, low, high } = advantageOf(difference)
  if (better + worse === 0)
    return (
      <p className="text-[13px] leading-[18px]" data-testid="verdict">
        <b>{best.name}</b> and <b>{other.name}</b> come to the same in all of {formatCount(runs)} runs.
      </p>
    )
  return (
    <p className="text-[13px] leading-[18px]" data-testid="verdict">
      <b>{best.name}</b> beats <b>{other.name}</b> in {formatCount(better)} of {formatCount(runs)} runs, by{' '}
      {fixedNumber(mean)} on average ({fixedNumber(low)} to {fixedNumber(high)}, 95 %).{' '}
      {low <= 0
        ? `These runs cannot tell them apart${Number.isFinite(needed) ? `; about ${formatCount(needed)} would, if this difference is real` : ''}.`
        : worse > 0
          ? `With one run you would have been wrong 1 time in ${formatCount(runs / worse)}.`
          : 'In no run was it the other way round.'}
      {low <= 0 && needed > runs && needed <= MOST_RUNS && (
        <>
          {' '}
          <Button
            className="!px-1.5 !py-0 text-[13px]"
            title="Then Run, here or on the server"
            onClick={() => compare.set({ runs: needed })}
          >
            Ask for {formatCount(needed)} runs
          </Button>
        </>
      )}
    </p>
  )
}

/** What a contestant gained from the first episodes to the next, run by run. */
function Progress({ drawn }: { drawn: readonly Drawn[] }) {
  const changes = useMemo(
    () =>
      drawn.flatMap((each) => {
        const change = changeOf(each.runs, `first-${STRETCH}`, `next-${STRETCH}`)
        return change ? [{ ...each, change }] : []
      }),
    [drawn],
  )
  return changes.map(({ contestant, name, change: { mean, low, high, better, runs } }) => (
    <p key={contestant.id} className="text-[13px] leading-[18px]">
      <b>{name}</b>, from its first {STRETCH} episodes to the next: {mean >= 0 ? 'up' : 'down'} by{' '}
      {fixedNumber(Math.abs(mean))} ({fixedNumber(low)} to {fixedNumber(high)}, 95 %), better in{' '}
      {formatCount(better)} of {formatCount(runs)} runs.
    </p>
  ))
}
