'use client'

import type { ReactNode } from 'react'
import type { EpisodeStep, EpisodeTable } from '../../../core/learn/episode-table'
import { formatNumber } from '../../../core/formats/number'
import type { LearnMethod } from '../../../core/learn/methods/method'
import type { Model } from '../../../core/model/model'
import type { LearnChoice } from '../../../core/settings/choice'

const text = (value: number) => formatNumber(value, 4)
/** Probabilities move little in one episode. */
const chance = (value: number) => formatNumber(value, 6)

/** One step of an episode with all its arithmetic, and why the action became likelier or not. */
export function EpisodeStepView({
  model,
  episode,
  at,
  settings,
  method,
}: {
  model: Model
  episode: EpisodeTable
  at: number
  settings: LearnChoice
  method: LearnMethod
}) {
  const step = episode.steps[at]
  const { update } = step
  const next: EpisodeStep | undefined = episode.steps[at + 1]
  const action = model.actions[step.action]
  return (
    <section aria-label="Step in full" className="space-y-1.5">
      <h3 className="font-semibold">
        Step {at + 1}: {action} in {model.labels[step.state]}
      </h3>
      <dl className="divide-y divide-rule border-y border-rule text-[13.5px]">
        <Line name="return">
          <b className="text-brass">{text(step.reward)}</b>
          {next ? (
            <>
              {' '}
              + <span className="text-slate">{text(step.discount)}</span> ×{' '}
              <span className="text-spruce">{text(next.gain)}</span> = {text(step.gain)}
            </>
          ) : (
            ', the last reward of the episode'
          )}
        </Line>
        {update && (
          <Line name="advantage">
            <span className="text-brass">{text(update.worth)}</span> −{' '}
            <span className="text-plum">{text(update.baseline)}</span> = <b>{text(update.advantage)}</b>
          </Line>
        )}
        <Line name="log-probability">
          ln <span className="text-slate">{chance(step.probability)}</span> = {text(step.logProbability)}
        </Line>
        {method.tableHolds === 'preferences' && !method.playsCandidates && (
          <Line name="its gradient">
            (1 − <span className="text-slate">{chance(step.probability)}</span>)
            {settings.temperature !== 1 && ` / ${text(settings.temperature)}`} ={' '}
            {text((1 - step.probability) / settings.temperature)} for {action}, minus their probability for
            the others
          </Line>
        )}
        {update && (
          <Line name="step">
            rate <span className="text-slate">{text(update.rate)}</span> × weight{' '}
            <span className="text-slate">{text(update.weight)}</span> × {text(update.advantage)} × gradient
          </Line>
        )}
        <Line name="probability">
          <span className="text-plum">{chance(step.probability)}</span>
          {!method.playsCandidates && (
            <>
              {' '}
              → <b>{chance(step.after)}</b>
            </>
          )}
        </Line>
      </dl>
      {update && <p className="text-[13px] text-ink-soft">{signInWords(action, step, method, settings)}</p>}
    </section>
  )
}

function Line({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className="flex gap-2 py-1">
      <dt className="w-24 shrink-0 text-ink-soft">{name}</dt>
      <dd>{children}</dd>
    </div>
  )
}

/** Why the action became likelier, or less likely, with the numbers. */
function signInWords(
  action: string,
  { update, probability, after }: EpisodeStep,
  { critic }: LearnMethod,
  { baseline }: LearnChoice,
): string {
  const { worth, baseline: compared, advantage } = update!
  const what = critic
    ? `The critic judges ${action} by ${text(worth)}`
    : `The return from here is ${text(worth)}`
  const than = critic
    ? `its value of the state, ${text(compared)}`
    : baseline.kind === 'none'
      ? '0, as there is no baseline'
      : `the baseline, ${text(compared)}`
  if (advantage === 0) return `${what}, just ${than}: nothing changes.`
  const way = advantage > 0 ? 'above' : 'below'
  const effect = advantage > 0 ? 'more likely' : 'less likely'
  const came =
    after > probability === advantage > 0 || after === probability
      ? `from ${chance(probability)} to ${chance(after)}`
      : `other steps of the episode outweigh this one: from ${chance(probability)} to ${chance(after)}`
  return `${what}, which is ${text(Math.abs(advantage))} ${way} ${than}: that makes ${action} ${effect}; ${came}.`
}
