'use client'

import { useMemo, useState } from 'react'
import { useStore } from 'zustand'
import { drawnBandit } from '../../../core/kinds/bandit/drawn'
import { PaySchedule } from '../../../core/kinds/bandit/compile'
import type { CompiledBandit } from '../../../core/kinds/bandit/kind'
import type { PaneProps } from '../kind'
import { formatCount, formatNumber } from '../../../core/formats/number'
import { describeArm, rewardRange, type BanditPicture } from './bandit-picture'
import { BanditBoard } from './BanditBoard'
import { HandPullsPanel } from './HandPullsPanel'
import { Button } from '../../parts/Button'
import { Checkbox } from '../../parts/Checkbox'
import { LineSelect } from '../../parts/Select'
import { BoardFrame } from '../../study/BoardFrame'
import { stateAt } from '../../../session/study/cursor'
import { useParts, useStudy } from '../../study/study-context'

/** Pulls looked at for the scale of rewards: enough to see how far a drift goes. */
const LOOKS = 200

/** The board of a bandit: its arms in a context, at a pull. */
export function BanditPane({ document, compiled, shown, name }: PaneProps<'bandit'>) {
  return compiled && <BanditPaneOf document={document} compiled={compiled} shown={shown} name={name} />
}

function BanditPaneOf({
  document,
  compiled,
  shown,
  name,
}: Pick<PaneProps<'bandit'>, 'document' | 'shown' | 'name'> & { compiled: CompiledBandit }) {
  const cursor = useStudy((state) => state.cursor)
  const layers = useStudy((state) => state.layers)
  const select = useStudy((state) => state.select)
  const edit = useStudy((state) => state.edit)
  const [hover, setHover] = useState<number | null>(null)
  const { learn } = useParts()
  const stage = useStudy((each) => each.stage)
  const learns = stage === 'learn'
  const canPull = learns || stage === 'check'
  const running = useStore(learn.store, (state) => state.running)
  const problem = useStore(learn.store, (state) => state.problem)
  // In Learn the arms are those that the run on the board met.
  const bandit = useMemo(
    () => (learns && running ? drawnBandit(document.bandit, running.seed, running.run) : document.bandit),
    [document.bandit, learns, running],
  )
  const { model } = compiled
  const { contexts, pulls, pullOfState, contextOfState } = compiled.bandit
  const { overlay, agent, titles } = shown
  const selected = stateAt(compiled, cursor)
  // The agent's own pull while it plays, else the selected one; the ending has no arms.
  const wanted = agent !== null && !model.ending[agent] ? agent : selected
  const state = wanted === null || model.ending[wanted] ? 0 : wanted
  const pull = pullOfState[state]
  const context = contextOfState[state]
  const schedule = useMemo(() => new PaySchedule(bandit), [bandit])
  const range = useMemo(() => {
    const step = Math.max(1, Math.floor(pulls / LOOKS))
    const looks = Array.from({ length: Math.ceil(pulls / step) }, (_, i) => 1 + i * step)
    return rewardRange(
      looks.flatMap((at) => bandit.arms.flatMap((_, arm) => contexts.map((_, c) => schedule.at(at, arm, c)))),
    )
  }, [bandit, schedule, pulls, contexts])
  const picture = useMemo<BanditPicture>(() => {
    const first = model.rowStart[state]
    // Visits of an arm are counted over all pulls in which the agent sees the same.
    const visits = (arm: number) => {
      if (!overlay?.rowVisits) return undefined
      let sum = 0
      for (let s = 0; s < model.states; s++)
        if (contextOfState[s] === context) sum += overlay.rowVisits[model.rowStart[s] + arm]
      return sum
    }
    return {
      arms: bandit.arms.map(({ name }, arm) => ({
        name,
        pays: schedule.at(pull, arm, context),
        estimate: overlay?.preferences ? undefined : overlay?.rowValues?.[first + arm],
        chance: overlay?.policy?.[first + arm],
        pulls: visits(arm),
        bound: overlay?.bounds?.[first + arm],
      })),
      ...range,
      hidden: bandit.hidden,
      layers,
      estimateTitle: titles.rows === 'action values' ? 'action value' : titles.rows,
    }
  }, [bandit, schedule, model, state, pull, context, contextOfState, overlay, range, layers, titles])
  const stateOf = (nextPull: number, nextContext: number) => (nextPull - 1) * contexts.length + nextContext
  const drifts = bandit.drift.type !== 'none'
  const [byHand, setByHand] = useState(false)
  return (
    <BoardFrame
      controls={
        contexts.length > 1 || pulls > 1 || bandit.hidden || canPull ? (
          <div className="space-y-2">
            <div className="flex flex-wrap items-center gap-x-4 gap-y-1 text-[13px]">
              {contexts.length > 1 && (
                <LineSelect
                  label="Context"
                  labelled
                  className="max-w-48"
                  value={String(context)}
                  options={contexts.map((each, i) => [String(i), each])}
                  onChange={(chosen) => select(stateOf(pull, Number(chosen)))}
                />
              )}
              {pulls > 1 && (
                <label className="flex items-center gap-1.5">
                  <span className="text-ink-soft">Pull</span>
                  <input
                    type="range"
                    className="w-48"
                    aria-label="Pull"
                    min={1}
                    max={pulls}
                    value={pull}
                    onChange={(event) => select(stateOf(Number(event.target.value), context))}
                  />
                  <span className="w-24 font-semibold">
                    {formatCount(pull)} of {formatCount(pulls)}
                  </span>
                  {!drifts && <span className="text-ink-soft">all pulls are alike</span>}
                </label>
              )}
              {bandit.hidden && (
                <Button
                  className="ml-auto px-1.5 py-0.5"
                  onClick={() => edit({ ...document, bandit: { ...document.bandit, hidden: false } })}
                >
                  Reveal the truth
                </Button>
              )}
              {learns && running && bandit !== document.bandit && (
                <span className="text-ink-soft">
                  The arms of run {formatCount(running.run)} of seed {running.seed}
                </span>
              )}
              {canPull && (
                <Checkbox checked={byHand} title="The class against the agent" onChange={setByHand}>
                  Pull by hand
                </Checkbox>
              )}
            </div>
            {canPull && byHand && (
              <HandPullsPanel model={(learns && problem) || model} hidden={bandit.hidden} />
            )}
          </div>
        ) : undefined
      }
      readout={
        hover !== null && hover < picture.arms.length ? (
          describeArm(picture, hover, (value) => formatNumber(value, 3))
        ) : (
          <span className="text-ink-soft">
            Point at an arm to read it; click the board to see the working.
          </span>
        )
      }
      legends={
        <span className="flex shrink-0 flex-wrap gap-x-4 text-[13px] text-ink-soft" aria-label="Legend">
          {!bandit.hidden && <span>grey: what a pull pays · line: its mean</span>}
          {overlay?.rowValues && !overlay.preferences && layers.has('actionValues') && (
            <span className="text-brass">pin: {picture.estimateTitle}</span>
          )}
          {overlay?.bounds && layers.has('actionValues') && (
            <span className="text-brass">bracket: upper bound</span>
          )}
          {overlay?.rowVisits && layers.has('visits') && <span>×: times pulled</span>}
        </span>
      }
    >
      <BanditBoard
        picture={picture}
        label={`${name ? `${name}, ` : ''}${document.name}: ${bandit.arms.length} arms. ${picture.arms.map((_, arm) => describeArm(picture, arm, (value) => formatNumber(value, 3))).join('. ')}`}
        onHover={setHover}
        onPick={() => select(state)}
        onWalk={(columns) => select(stateOf(Math.max(1, Math.min(pulls, pull + columns)), context))}
      />
    </BoardFrame>
  )
}
