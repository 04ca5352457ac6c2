'use client'

import { useEffect, useRef, useState } from 'react'
import { useStore } from 'zustand'
import type { Walk } from '../../../core/check/walk'
import { chosenAction, type WalkStep } from '../../../core/check/walk-steps'
import { walkCsv, walkText } from '../../../core/check/walk-text'
import { fixedNumber, formatCount, formatNumber, signedNumber } from '../../../core/formats/number'
import type { Model } from '../../../core/model/model'
import { Button } from '../../parts/Button'
import { downloadText } from '../../parts/download'
import { fileName } from '../../../core/formats/file-name'
import { useCovered, useParts, useStudy } from '../../study/study-context'
import { Readout } from '../../timeline/Readout'
import { Strip } from '../../timeline/Strip'
import { Transport } from '../../timeline/Transport'
import { useWalk } from './use-walk'

/** Between two steps while a walk plays, in milliseconds. */
const PAUSE = 450

/** What is walked on the board, as a table with a head that goes both ways. */
export function CheckTimeline() {
  const { check } = useParts()
  const name = useStudy((state) => state.document.name)
  const covered = useCovered()
  const walk = useWalk()
  const walked = useStore(check.store, (state) => state.walked)
  const [playing, setPlaying] = useState(false)
  const [copied, setCopied] = useState<Walk | null>(null)
  const count = walk?.steps.length ?? 0
  const at = walk?.at ?? 0
  const over = at >= count
  useEffect(() => {
    if (!playing || over) return
    const timer = setInterval(() => check.go(check.store.getState().at + 1), PAUSE)
    return () => clearInterval(timer)
  }, [playing, over, check])
  const last = at > 0 ? walk?.steps[at - 1] : undefined
  const model = walk?.compiled.model
  const copy = async () => {
    if (!walk) return
    await navigator.clipboard?.writeText(walkText(walk.compiled.model, walk.walk.start, walk.steps))
    setCopied(walk.walk)
  }
  const begun = at === 0 ? 'it is at its beginning' : null
  const ends = over ? 'nothing comes after this step' : null
  return (
    <Strip
      what="table"
      controls={
        <>
          <Transport
            presses={[
              { icon: 'start', label: 'To the start', blocked: begun, onPress: () => check.go(0) },
              {
                icon: 'back',
                label: 'One step back',
                shortcut: ',',
                blocked: begun,
                onPress: () => check.go(at - 1),
              },
              playing && !over
                ? { icon: 'pause', label: 'Pause', strong: true, onPress: () => setPlaying(false) }
                : {
                    icon: 'play',
                    label: 'Play',
                    strong: true,
                    blocked: count === 0 ? 'no step was taken' : null,
                    onPress: () => {
                      if (over) check.go(0)
                      setPlaying(true)
                    },
                  },
              {
                icon: 'forward',
                label: 'One step',
                shortcut: '.',
                blocked: ends,
                onPress: () => check.go(at + 1),
              },
              { icon: 'end', label: 'To the end', blocked: ends, onPress: () => check.go(count) },
            ]}
          />
          <div className="flex flex-wrap gap-1.5">
            <Button className="!px-2 !py-0.5 text-[13px]" disabled={!walk} onClick={() => void copy()}>
              {walk && copied === walk.walk ? 'Copied' : 'Copy as text'}
            </Button>
            <Button
              className="!px-2 !py-0.5 text-[13px]"
              disabled={!walk || count === 0}
              onClick={() =>
                walk &&
                downloadText(
                  fileName(name, '-steps.csv'),
                  walkCsv(walk.compiled.model, walk.steps),
                  'text/csv',
                )
              }
            >
              CSV
            </Button>
          </div>
          {walked.kind !== 'hand' && (
            <Button
              className="!px-2 !py-0.5 text-[13px]"
              onClick={() => {
                check.choose(null)
                check.walk({ kind: 'hand' })
              }}
            >
              Back to my episode
            </Button>
          )}
        </>
      }
      chart={() =>
        walk ? (
          <StepTable
            model={walk.compiled.model}
            steps={walk.steps}
            at={at}
            covered={covered}
            onLook={(step) => check.go(step)}
          />
        ) : null
      }
      slider={
        <input
          type="range"
          className="w-full"
          min={0}
          max={Math.max(1, count)}
          value={at}
          disabled={count === 0}
          aria-label="Step"
          onChange={(event) => check.go(Number(event.target.value))}
        />
      }
      readout={
        <Readout
          items={[
            ['Step', `${formatCount(at)} of ${formatCount(count)}`],
            ['Reward of the step', last ? signedNumber(last.reward) : '–'],
            ['Return, discounted', walk ? formatNumber(last?.collected ?? 0, 4) : '–'],
            ['Return, undiscounted', walk ? formatNumber(last?.sum ?? 0, 4) : '–'],
            ['State', model && walk ? model.labels[walk.state] : '–'],
          ]}
        />
      }
    />
  )
}

const NUMBER = 'px-1.5 py-0.5 text-right whitespace-nowrap'
const WORD = 'max-w-40 truncate px-1.5 py-0.5 text-left'

function StepTable({
  model,
  steps,
  at,
  covered,
  onLook,
}: {
  model: Model
  steps: readonly WalkStep[]
  /** Steps taken: the last of them is the row that is lit. */
  at: number
  covered: boolean
  onLook(step: number): void
}) {
  const row = useRef<HTMLTableRowElement>(null)
  useEffect(() => {
    row.current?.scrollIntoView({ block: 'nearest' })
  }, [at])
  if (!steps.length)
    return (
      <p className="flex h-full items-center justify-center text-ink-soft">
        Every step that you take is listed here, with its outcome and its reward.
      </p>
    )
  return (
    <div className="h-full overflow-auto border border-rule" tabIndex={0} role="region" aria-label="Steps">
      <table className="w-full text-[13px]" aria-label="Step by step">
        <thead className="sticky top-0 bg-paper text-ink-soft">
          <tr className="border-b border-rule-strong">
            <th className={NUMBER}>step</th>
            <th className={WORD}>state</th>
            <th className={WORD}>action</th>
            <th className={WORD}>outcome</th>
            {!covered && (
              <th className={NUMBER} title="Of the outcome, given state and action">
                probability
              </th>
            )}
            <th className={NUMBER}>reward</th>
            <th className={NUMBER} title="Discounted, from the start to after this step">
              return
            </th>
            <th className={WORD}>next state</th>
          </tr>
        </thead>
        <tbody>
          {steps.map((step, t) => (
            <tr
              key={t}
              ref={t + 1 === at ? row : undefined}
              aria-selected={t + 1 === at}
              className={`cursor-pointer border-b border-rule/60 ${t + 1 === at ? 'font-semibold outline-2 -outline-offset-2 outline-brass-bright' : t >= at ? 'text-ink-soft' : 'hover:bg-rule/40'}`}
              onClick={() => onLook(t + 1)}
            >
              <td className={`${NUMBER} text-ink-soft`}>{t + 1}</td>
              <td className={WORD} title={model.labels[step.state]}>
                {model.labels[step.state]}
              </td>
              <td className={WORD}>
                {chosenAction(model, step)}
                {step.instead !== null && <span className="text-plum"> → {step.instead}</span>}
              </td>
              <td className={WORD} title={step.fell}>
                {step.fell || '–'}
              </td>
              {!covered && <td className={NUMBER}>{formatNumber(100 * step.probability, 2)} %</td>}
              <td className={`${NUMBER} text-brass`} title={partsText(step)}>
                {signedNumber(step.reward)}
              </td>
              <td className={NUMBER}>{fixedNumber(step.collected)}</td>
              <td className={WORD} title={model.labels[step.next]}>
                {model.labels[step.next]}
                {model.ending[step.next] === 1 && <span className="text-ink-soft"> (ending)</span>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

/** What a reward is made of, in words. */
export function partsText({ parts }: Pick<WalkStep, 'parts'>): string {
  return parts.map(({ title, amount }) => `${title} ${signedNumber(amount)}`).join(', ')
}
