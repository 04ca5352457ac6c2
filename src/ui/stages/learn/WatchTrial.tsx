'use client'

import { useEffect, useState } from 'react'
import { useStore } from 'zustand'
import { formatCount, formatNumber, signedNumber } from '../../../core/formats/number'
import { Button } from '../../parts/Button'
import { Icon } from '../../parts/Icon'
import { useParts } from '../../study/study-context'

/** Between two steps while a trial plays, in milliseconds. */
const PAUSE = 350

/** One trial, step by step on the board. */
export function WatchTrial() {
  const { learn, trials } = useParts()
  const model = useStore(learn.store, (state) => state.problem)
  const { watched, settings } = useStore(trials.store)
  const [playing, setPlaying] = useState(false)
  const length = watched?.episode.rows.length ?? 0
  const over = !watched || watched.at >= length
  useEffect(() => {
    if (!playing || over) return
    const timer = setInterval(() => trials.go((trials.store.getState().watched?.at ?? 0) + 1), PAUSE)
    return () => clearInterval(timer)
  }, [playing, over, trials])
  if (!watched || !model || !settings) return null
  const { episode, at, title, number } = watched
  const turn = (by: number) => trials.watch({ model, title, number: number + by })
  const button = (
    icon: Parameters<typeof Icon>[0]['name'],
    label: string,
    disabled: boolean,
    press: () => void,
  ) => (
    <Button className="!px-1.5 !py-0.5" aria-label={label} title={label} disabled={disabled} onClick={press}>
      <Icon name={icon} className="size-4" />
    </Button>
  )
  let collected = 0
  for (let t = at - 1; t >= 0; t--) collected = episode.rewards[t] + settings.discount * collected
  return (
    <section
      aria-label="Trial on the board"
      className="space-y-1.5 border-l-4 border-brass-bright pl-2.5 text-[13px]"
    >
      <p>
        <b>{title}</b>, episode {formatCount(number + 1)} of {formatCount(settings.episodes)}, step{' '}
        {formatCount(at)} of {formatCount(length)}; return so far {formatNumber(collected)}
      </p>
      <div className="flex gap-1">
        {button('start', 'Episode before', number === 0, () => turn(-1))}
        {button('back', 'Step back in the trial', at === 0, () => trials.go(at - 1))}
        {playing && !over
          ? button('pause', 'Pause the trial', false, () => setPlaying(false))
          : button('play', 'Play the trial', over, () => setPlaying(true))}
        {button('forward', 'Step on in the trial', over, () => trials.go(at + 1))}
        {button('end', 'Next episode', number + 1 >= settings.episodes, () => turn(1))}
        <Button className="!px-1.5 !py-0.5 text-[13px]" onClick={() => trials.watch(null)}>
          Back to the run
        </Button>
      </div>
      <p className="text-ink-soft">
        {at === 0
          ? `Begins in ${model.labels[episode.states[0]]}.`
          : `In ${model.labels[episode.states[at - 1]]} ${model.actions[model.rowAction[episode.rows[at - 1]]]}, reward ${signedNumber(episode.rewards[at - 1])}, to ${model.labels[episode.states[at]]}${
              at < length ? '.' : episode.ended ? ', an ending.' : '; cut off by the step limit.'
            }`}
      </p>
    </section>
  )
}
