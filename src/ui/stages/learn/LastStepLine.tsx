import { formatCount, formatNumber, signedNumber } from '../../../core/formats/number'
import type { Model } from '../../../core/model/model'
import type { LearnFrame } from '../../../hosts/protocol/learn'

const ENDED = { no: '', ending: ', an ending', cap: '; cut off by the step limit' } as const

/** The agent's last step in words: what it chose, whether it explored, what came of it and how likely that was. */
export function LastStepLine({
  model,
  frame,
  level,
  samples,
  hasRate,
}: {
  model: Model
  frame: LearnFrame
  /** What the number behind exploring is called; null where the method has none. */
  level: string | null
  /** Whether the method takes steps in the environment. */
  samples: boolean
  hasRate: boolean
}) {
  const { last, lastAction, lastChance, age, episodes } = frame
  if (!samples)
    return (
      <p className="border-y border-rule py-1.5 text-ink-soft">
        This method works from the model: the agent takes no steps, and an episode is one step along the
        gradient.
      </p>
    )
  if (lastAction < 0)
    return <p className="border-y border-rule py-1.5 text-ink-soft">The agent has not moved yet.</p>
  const episode = formatCount(last.ended === 'no' ? episodes + 1 : episodes)
  return (
    <div className="border-y border-rule py-1.5 leading-5" data-testid="last-step">
      <p>
        <span className="text-ink-soft">
          Episode {episode}
          {last.ended === 'no' ? `, step ${formatCount(age)}` : ''}:
        </span>{' '}
        in {model.labels[last.state]} {last.explored ? 'exploring, ' : ''}
        <span className="font-semibold">{model.actions[lastAction]}</span>, reward{' '}
        <span className="font-semibold text-brass">{signedNumber(last.reward)}</span>, to{' '}
        <span className="font-semibold text-spruce">{model.labels[last.next]}</span>
        {lastChance < 0.9995 && <span className="text-slate"> (chance {formatNumber(lastChance, 3)})</span>}
        {ENDED[last.ended]}.
      </p>
      {(level !== null || hasRate) && (
        <p className="text-[13px] text-slate">
          {[
            ...(level !== null ? [`${level} ${formatNumber(frame.level, 4)}`] : []),
            ...(hasRate ? [`learning rate ${formatNumber(frame.learningRate, 4)}`] : []),
          ].join(', ')}
        </p>
      )}
    </div>
  )
}
