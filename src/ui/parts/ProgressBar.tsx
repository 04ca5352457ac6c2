/** How far something is. @param label  what, for those who cannot see it */
export function ProgressBar({ value, max, label }: { value: number; max: number; label: string }) {
  return (
    <progress
      className="h-2 w-full appearance-none overflow-hidden rounded-sm bg-rule [&::-moz-progress-bar]:bg-ink [&::-webkit-progress-bar]:bg-rule [&::-webkit-progress-value]:bg-ink"
      value={value}
      max={max}
      aria-label={label}
    />
  )
}
