'use client'

import { useState } from 'react'
import { useStore } from 'zustand'
import { possibleActions } from '../../../core/check/hand'
import { chanceOf, waysTo } from '../../../core/check/walk-steps'
import { formatNumber, signedNumber } from '../../../core/formats/number'
import type { Happening } from '../../../core/kinds/happening'
import { rowOf, type Model } from '../../../core/model/model'
import { stateAt } from '../../../session/study/cursor'
import { Button } from '../../parts/Button'
import { Fold } from '../../study/Fold'
import { Icon } from '../../parts/Icon'
import { NumberField } from '../../parts/NumberField'
import { Section } from '../../parts/Section'
import { useCovered, useModel, useParts, useStudy } from '../../study/study-context'
import { ACTION_KEYS } from './action-keys'
import { partsText } from './CheckTimeline'
import { useWalk } from './use-walk'

/** Outcomes of an action that are listed at first. */
const LISTED = 8
/** Actions that are listed at first. */
const ACTIONS = 12

/** An episode by hand: what is possible, what can come of it, and where to begin. */
export function HandPanel() {
  const { check } = useParts()
  const walk = useWalk()
  const { walked, hand, played } = useStore(check.store)
  const covered = useCovered()
  const compiled = useModel((state) => state.compiled)
  const selected = stateAt(
    compiled,
    useStudy((state) => state.cursor),
  )
  const [open, setOpen] = useState<number | null>(null)
  const [all, setAll] = useState(false)
  if (!walk)
    return (
      <Section title="By hand">
        <p className="text-ink-soft">There is no model to play in yet: see below what is wrong.</p>
      </Section>
    )
  const { model } = walk.compiled
  const { state } = walk
  const byHand = walked.kind === 'hand'
  const possible = byHand ? possibleActions(model, state) : []
  const over = byHand && walk.at === walk.walk.outcomes.length ? played?.over : null
  const shown = all ? model.actions.map((_, a) => a) : actionsShown(model, possible)
  const canBegin = selected !== null && !model.ending[selected] && (selected !== state || !byHand)
  return (
    <Section
      title="By hand"
      hint="An episode step by step; outcomes are drawn as for learners, from the seed below."
    >
      {byHand && !over && (
        <>
          <ul className="divide-y divide-rule border-y border-rule text-[14px]" aria-label="Actions">
            {shown.map((action) => {
              const place = possible.indexOf(action)
              const row = place < 0 ? -1 : rowOf(model, state, action)
              return (
                <li key={action} className="py-1">
                  <div className="flex items-center gap-2">
                    <kbd
                      className="w-5 shrink-0 text-center text-[12px] text-ink-soft"
                      aria-hidden
                      title={place >= 0 && ACTION_KEYS[place] ? 'Its key' : undefined}
                    >
                      {place >= 0 ? (ACTION_KEYS[place] ?? '').toUpperCase() : ''}
                    </kbd>
                    <Button
                      className="!px-2 !py-0.5 min-w-24 !justify-start"
                      disabled={place < 0}
                      why={`not possible in ${model.labels[state]}`}
                      onClick={() => check.act(action)}
                    >
                      {model.actions[action]}
                    </Button>
                    {row >= 0 && !covered && (
                      <button
                        type="button"
                        aria-expanded={open === action}
                        className="ml-auto text-[13px] text-ink-soft underline decoration-dotted underline-offset-4"
                        onClick={() => setOpen(open === action ? null : action)}
                      >
                        what can happen
                      </button>
                    )}
                    {place < 0 && <span className="text-[13px] text-ink-soft">not possible here</span>}
                  </div>
                  {open === action && row >= 0 && (
                    <Outcomes
                      model={model}
                      row={row}
                      ways={walk.happenings(row)}
                      onForce={(outcome) => check.act(action, outcome)}
                    />
                  )}
                </li>
              )
            })}
          </ul>
          {shown.length < model.actions.length && (
            <Button className="!px-2 !py-0.5 text-[13px]" onClick={() => setAll(true)}>
              Show all {model.actions.length} actions
            </Button>
          )}
        </>
      )}
      {over && (
        <p className="border-l-4 border-brass-bright pl-2.5">
          {over === 'ended'
            ? `The episode has ended in ${model.labels[state]}.`
            : 'The step limit cut the episode off.'}
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        <Button onClick={() => check.begin(hand.start)} title="Begin again (B)">
          <Icon name="restart" className="size-4" /> Begin again
        </Button>
        <Button
          disabled={!canBegin}
          why="select a state on the board that is no ending"
          onClick={() => selected !== null && check.begin(selected)}
        >
          {canBegin ? `Begin in ${model.labels[selected]}` : 'Begin in the selected state'}
        </Button>
        {hand.start !== null && (
          <Button onClick={() => check.begin(null)} title="From a start of the environment">
            Begin at the start
          </Button>
        )}
      </div>
      <Fold title="Seed and episode" small>
        <div className="grid grid-cols-2 gap-3">
          <NumberField
            label="Seed"
            whole
            value={hand.seed}
            min={0}
            max={Number.MAX_SAFE_INTEGER}
            hint="The same seed, episode and actions give the same episode, here and in trials."
            onChange={(seed) => check.deal({ seed })}
          />
          <NumberField
            label="Episode"
            whole
            value={hand.episode + 1}
            min={1}
            max={1_000_000}
            hint="Each episode has draws of its own."
            onChange={(episode) => check.deal({ episode: episode - 1 })}
          />
        </div>
      </Fold>
    </Section>
  )
}

/** All actions where there are few; of many those that are possible, up to a number. */
function actionsShown(model: Model, possible: readonly number[]): number[] {
  if (model.actions.length <= ACTIONS) return model.actions.map((_, a) => a)
  return possible.slice(0, ACTIONS)
}

/** What can come of an action: each outcome with its chance, to be made to happen. */
function Outcomes({
  model,
  row,
  ways,
  onForce,
}: {
  model: Model
  row: number
  ways: readonly Happening[]
  onForce(outcome: number): void
}) {
  const [all, setAll] = useState(false)
  const outcomes = Array.from(
    { length: model.outcomeStart[row + 1] - model.outcomeStart[row] },
    (_, k) => model.outcomeStart[row] + k,
  ).sort((x, y) => model.outcomeProbability[y] - model.outcomeProbability[x])
  const shown = all ? outcomes : outcomes.slice(0, LISTED)
  return (
    <ul className="mt-1 ml-7 space-y-0.5 text-[13px]" aria-label="What can happen">
      {shown.map((outcome) => {
        const to = waysTo(model, ways, row, outcome)
        const fell = [...new Set(to.map((way) => way.fell).filter(Boolean))]
        return (
          <li key={outcome} className="flex items-baseline gap-2">
            <span className="w-14 shrink-0 text-right text-slate">
              {formatNumber(100 * chanceOf(model, row, outcome), 2)} %
            </span>
            <span className="min-w-0 flex-1">
              {fell.length ? `${fell.slice(0, 2).join(' or ')}${fell.length > 2 ? ' …' : ''}: ` : ''}
              <b className="text-spruce">{model.labels[model.outcomeState[outcome]]}</b>{' '}
              <span
                className="text-brass"
                title={to.length === 1 ? partsText(to[0]) : 'the mean of several ways'}
              >
                {signedNumber(model.outcomeReward[outcome])}
              </span>
            </span>
            <Button
              className="!px-1.5 !py-0 text-[13px]"
              title="Take the action and make this its outcome"
              aria-label={`Force: ${model.labels[model.outcomeState[outcome]]}`}
              onClick={() => onForce(outcome)}
            >
              force
            </Button>
          </li>
        )
      })}
      {outcomes.length > shown.length && (
        <li>
          <Button className="!px-2 !py-0.5 text-[13px]" onClick={() => setAll(true)}>
            All {outcomes.length} outcomes
          </Button>
        </li>
      )}
    </ul>
  )
}
