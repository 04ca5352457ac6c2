'use client'

import { formatCount } from '../../core/formats/number'
import type { Speed } from '../../hosts/protocol/common'

/** A slider over a few sensible speeds, from slow enough to explain to flat out. */
export function SpeedSlider({
  speeds,
  unit,
  speed,
  onChange,
}: {
  speeds: readonly number[]
  /** What there are several of in a second, with the word for one of them. */
  unit: readonly [one: string, several: string]
  speed: Speed
  onChange(speed: Speed): void
}) {
  const at = speed === 'flat out' ? speeds.length : speeds.findIndex((each) => each >= speed)
  const words =
    speed === 'flat out' ? 'flat out' : `${formatCount(speed)} ${unit[speed === 1 ? 0 : 1]} a second`
  return (
    <label className="flex flex-col text-[13px] text-ink-soft">
      <span>
        Speed: <span className="text-ink">{words}</span>
      </span>
      <input
        type="range"
        className="w-44"
        min={0}
        max={speeds.length}
        step={1}
        value={at < 0 ? speeds.length : at}
        aria-label="Speed"
        aria-valuetext={words}
        onChange={(event) => {
          const index = Number(event.target.value)
          onChange(index === speeds.length ? 'flat out' : speeds[index])
        }}
      />
    </label>
  )
}
