import { formatCount, signedNumber } from '../../../core/formats/number'
import type { Model } from '../../../core/model/model'
import type { LearnFrame } from '../../../workers/protocol'

const ENDED = { no: '', ending: ', an ending', cap: '; cut off by the cap' } as const

/** The agent's last step in words. */
export function LastStepLine({ model, frame }: { model: Model; frame: LearnFrame }) {
  const { last, lastAction, age, episodes } = frame
  if (lastAction < 0)
    return <p className="border-y border-rule py-1.5 text-ink-soft">The agent has not moved yet.</p>
  const episode = formatCount(last.ended === 'no' ? episodes + 1 : episodes)
  return (
    <p className="border-y border-rule py-1.5 leading-5" data-testid="last-step">
      <span className="text-ink-soft">
        Episode {episode}
        {last.ended === 'no' ? `, step ${formatCount(age)}` : ''}:
      </span>{' '}
      in {model.labels[last.state]} {last.explored ? 'exploring, ' : ''}
      <span className="font-semibold">{model.actions[lastAction]}</span>, reward{' '}
      <span className="font-semibold text-brass">{signedNumber(last.reward)}</span>, to{' '}
      <span className="font-semibold text-spruce">{model.labels[last.next]}</span>
      {ENDED[last.ended]}.
    </p>
  )
}
