import { formatCount } from '../../core/formats/number'
import { ProgressBar } from './ProgressBar'

/** How many of the runs that were asked for are done. @param left  milliseconds, as far as can be told */
export function RunProgress({
  done,
  asked,
  left = null,
}: {
  done: number
  asked: number
  left?: number | null
}) {
  return (
    <div role="status" className="text-[13px]">
      <ProgressBar value={done} max={asked} label="Runs done" />
      {formatCount(done)} of {formatCount(asked)} runs done
      {left !== null && left > 1500 && `, about ${formatCount(left / 1000)} s left`}
    </div>
  )
}
