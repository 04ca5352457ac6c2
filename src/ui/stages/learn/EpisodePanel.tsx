'use client'

import { useEffect, useRef } from 'react'
import { useStore } from 'zustand'
import type { EpisodeStep, EpisodeTable } from '../../../core/learn/episode-table'
import { EPISODE_STEPS } from '../../../core/learn/episode-table'
import { fixedNumber, formatCount, formatNumber, signedNumber } from '../../../core/formats/number'
import { learnMethod } from '../../../core/learn/methods/methods'
import type { Model } from '../../../core/model/model'
import { cursorOf } from '../../../session/study/cursor'
import { Icon } from '../../parts/Icon'
import { useModel, useParts, useStudy } from '../../study/study-context'
import { GradientTruth } from './GradientTruth'
import { EpisodeStepView } from './EpisodeStepView'

const ENDED = { no: 'still going on', ending: 'came to an ending', cap: 'cut off by the step limit' } as const

/** The episode at hand, or the one just finished, step by step with what was learned from each. */
export function EpisodePanel() {
  const { learn } = useParts()
  const compiled = useModel((state) => state.compiled)
  const select = useStudy((state) => state.select)
  const { frame, running, episode, episodeStep } = useStore(learn.store)
  const stands = frame !== null && !frame.running
  const steps = frame?.steps ?? 0
  useEffect(() => {
    if (stands && steps > 0) learn.askEpisode()
    else learn.forgetEpisode()
  }, [learn, stands, steps])
  useEffect(() => () => learn.forgetEpisode(), [learn])
  if (!compiled || !running) return null
  const method = learnMethod(running.method)
  const searches = method.tableHolds === 'preferences'
  if (frame?.running)
    return <p className="text-ink-soft">Pause the run to see its last episode step by step.</p>
  if (!episode || episode.steps.length === 0)
    return (
      <>
        <p className="text-ink-soft">
          {steps === 0
            ? 'Take a step to see the episode it belongs to: each step with its return, and what was learned from it.'
            : method.fromModel
              ? 'The agent takes no steps: Working has the exact gradient of each state.'
              : 'The run was taken up in the middle of this episode: its first steps are not known.'}
        </p>
        {searches && steps > 0 && <GradientTruth />}
      </>
    )
  const { model } = compiled
  const shown = episodeStep ?? episode.steps.length - 1
  const look = (step: number) => {
    const at = Math.max(0, Math.min(episode.steps.length - 1, step))
    learn.showEpisodeStep(at)
    select(cursorOf(compiled, episode.steps[at].state))
  }
  return (
    <div className="space-y-2">
      <p className="text-[13px] text-ink-soft">
        Episode {formatCount(episode.episode)}, {formatCount(episode.steps.length + episode.omitted)} steps,{' '}
        {ENDED[episode.ended]}
        {episode.omitted > 0 && `; the first ${formatCount(EPISODE_STEPS)} are shown`}. On the board the
        needles of before are plum.
      </p>
      <Walk at={shown} count={episode.steps.length} onLook={look} />
      <StepTable
        model={model}
        episode={episode}
        shown={shown}
        moves={!method.playsCandidates}
        onLook={look}
      />
      <EpisodeStepView model={model} episode={episode} at={shown} settings={running} method={method} />
      {searches && <GradientTruth />}
    </div>
  )
}

function Walk({ at, count, onLook }: { at: number; count: number; onLook(step: number): void }) {
  const press = (icon: 'start' | 'back' | 'forward' | 'end', label: string, to: number, off: boolean) => (
    <button
      type="button"
      aria-label={label}
      title={label}
      disabled={off}
      className="rounded-sm border border-rule-strong bg-sheet p-1 disabled:opacity-40"
      onClick={() => onLook(to)}
    >
      <Icon name={icon} className="size-4" />
    </button>
  )
  return (
    <div className="flex items-center gap-1.5 text-[13px]">
      {press('start', 'First step of the episode', 0, at === 0)}
      {press('back', 'Step before', at - 1, at === 0)}
      {press('forward', 'Step after', at + 1, at >= count - 1)}
      {press('end', 'Last step of the episode', count - 1, at >= count - 1)}
      <span className="ml-1.5">
        Step {formatCount(at + 1)} of {formatCount(count)}
      </span>
    </div>
  )
}

const NUMBER = 'px-1 py-0.5 text-right'

function StepTable({
  model,
  episode,
  shown,
  moves,
  onLook,
}: {
  model: Model
  episode: EpisodeTable
  shown: number
  /** Whether the policy that is played is the one that learns. */
  moves: boolean
  onLook(step: number): void
}) {
  const judged = episode.steps.some(({ update }) => update !== null)
  const row = useRef<HTMLTableRowElement>(null)
  useEffect(() => {
    row.current?.scrollIntoView({ block: 'nearest' })
  }, [shown])
  return (
    <div className="max-h-56 overflow-auto border border-rule" tabIndex={0} role="region" aria-label="Steps">
      <table className="w-full text-[13px]" aria-label="Episode step by step">
        <thead className="sticky top-0 bg-sheet text-ink-soft">
          <tr className="border-b border-rule-strong">
            <th className={NUMBER} title="Step of the episode">
              t
            </th>
            <th className="px-1 py-0.5 text-left">state</th>
            <th className="px-1 py-0.5 text-left">action</th>
            <th className={NUMBER}>reward</th>
            <th className={NUMBER} title="Discounted, from the step to the end of the episode">
              return
            </th>
            {judged && (
              <th className={NUMBER} title="What it was worth, less what it is compared with">
                adv.
              </th>
            )}
            <th
              className={NUMBER}
              title="The probability of the action when it was taken, and after the episode"
            >
              probability
            </th>
          </tr>
        </thead>
        <tbody>
          {episode.steps.map((step, t) => (
            <tr
              key={t}
              ref={t === shown ? row : undefined}
              aria-selected={t === shown}
              className={`cursor-pointer border-b border-rule/60 ${t === shown ? 'font-semibold outline-2 -outline-offset-2 outline-brass-bright' : 'hover:bg-rule/40'}`}
              onClick={() => onLook(t)}
            >
              <td className={`${NUMBER} text-ink-soft`}>{t + 1}</td>
              <td className="max-w-24 truncate px-1 py-0.5" title={model.labels[step.state]}>
                {model.labels[step.state]}
              </td>
              <td className="max-w-20 truncate px-1 py-0.5" title={model.actions[step.action]}>
                {model.actions[step.action]}
              </td>
              <td className={`${NUMBER} text-brass`}>{signedNumber(step.reward)}</td>
              <td className={NUMBER} title={returnInWords(step, episode.steps[t + 1])}>
                {fixedNumber(step.gain)}
              </td>
              {judged && (
                <td className={`${NUMBER} ${signColour(step.update?.advantage ?? 0)}`}>
                  {step.update ? fixedNumber(step.update.advantage) : '–'}
                </td>
              )}
              <td className={`${NUMBER} whitespace-nowrap`}>
                <span className="text-plum">{fixedNumber(step.probability)}</span>
                {moves && ` → ${fixedNumber(step.after)}`}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

function signColour(advantage: number): string {
  return advantage > 0 ? 'text-spruce' : advantage < 0 ? 'text-alert' : ''
}

/** The addition behind a return. */
function returnInWords({ reward, discount, gain }: EpisodeStep, next: EpisodeStep | undefined): string {
  const text = (value: number) => formatNumber(value, 4)
  return next
    ? `${text(gain)} = ${text(reward)} + ${text(discount)} × ${text(next.gain)}, the return of the next step`
    : `${text(gain)}: nothing comes after this step`
}
