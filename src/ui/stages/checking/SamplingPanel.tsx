'use client'

import { useStore } from 'zustand'
import type { Disagreement, MeanCheck, SamplingReport } from '../../../core/check/sampling'
import { formatCount, formatNumber, significantNumber } from '../../../core/formats/number'
import { stateOfRow, type Model } from '../../../core/model/model'
import { Button } from '../../parts/Button'
import { Section } from '../../parts/Section'
import { useCovered, useModel, useParts } from '../../study/study-context'

/** A mean that a right environment comes to so rarely is told as one that does not fit. */
const RARE = 0.001

/** Outcomes drawn as learners draw them, against the declared probabilities. */
export function SamplingPanel() {
  const { check } = useParts()
  const model = useModel((state) => state.compiled?.model)
  const covered = useCovered()
  const { sampling, drawing, progress } = useStore(check.store)
  if (!model || covered) return null
  return (
    <Section title="Sampling" hint="Whether learners meet each outcome as often as its probability says.">
      <div className="flex items-center gap-3">
        <Button disabled={drawing || progress !== null} onClick={check.sample}>
          Draw a million times
        </Button>
        {drawing && (
          <>
            <span role="status" className="text-[13px]">
              Drawing …
            </span>
            <Button className="!px-2 !py-0.5 text-[13px]" onClick={check.stop}>
              Stop
            </Button>
          </>
        )}
      </div>
      {sampling && <Sampled sampling={sampling} model={model} />}
    </Section>
  )
}

function Sampled({ sampling, model }: { sampling: SamplingReport; model: Model }) {
  const { tests, skipped, draws, disagreements, power, returns, lengths, episodes, seconds } = sampling
  const wrong = disagreements.length > 0 || [returns, lengths].some((each) => each !== null && each.p < RARE)
  return (
    <div
      className={`space-y-1 border-l-4 pl-2.5 text-[13.5px] ${wrong ? 'border-alert' : 'border-spruce'}`}
      data-testid="sampled"
    >
      <p>
        <b>
          {tests === 0
            ? 'Nothing is left to chance.'
            : wrong
              ? 'Observed frequencies differ from the declared probabilities.'
              : 'Observed frequencies agree with the declared probabilities.'}
        </b>{' '}
        {tests > 0 &&
          `Sampled, not proved: ${formatCount(draws)} draws for ${formatCount(tests)} ${tests === 1 ? 'distribution' : 'distributions'}, each compared by a G test, corrected for their number, at the level of 1 %.`}{' '}
        {power !== null &&
          `A chance that is off by ${significantNumber(power, 2)} would have been seen with 99 %.`}{' '}
        {skipped > 0 && `${formatCount(skipped)} more have too rare outcomes for so few draws.`}
      </p>
      {disagreements.slice(0, 8).map((each) => (
        <p key={each.row} className="text-alert">
          {differenceText(model, each)}
        </p>
      ))}
      <MeanLine what="mean return" of={returns} />
      <MeanLine what="mean length" of={lengths} />
      <p className="text-[13px] text-ink-soft">
        {formatCount(episodes)} episodes of the uniform random policy; {formatNumber(seconds, 1)} s.
      </p>
    </div>
  )
}

function MeanLine({ what, of }: { what: string; of: MeanCheck | null }) {
  if (!of) return null
  return (
    <p className={of.p < RARE ? 'text-alert' : ''}>
      The {what} is {formatNumber(of.mean, 4)}; by the model it is {formatNumber(of.exact, 4)} ±{' '}
      {significantNumber(of.standardError)} (standard error)
      {of.p < RARE ? ', which is too far off.' : '.'}
    </p>
  )
}

function differenceText(model: Model, { row, outcome, declared, observed }: Disagreement): string {
  const what =
    row < 0
      ? `A start in ${model.labels[model.startState[outcome]]}`
      : `${model.actions[model.rowAction[row]]} in ${model.labels[stateOfRow(model, row)]} leads to ${model.labels[model.outcomeState[outcome]]}`
  return `${what} in ${formatNumber(100 * observed, 3)} % of the draws; declared are ${formatNumber(100 * declared, 3)} %.`
}
