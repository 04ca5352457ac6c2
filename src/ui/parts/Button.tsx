import type { ButtonHTMLAttributes } from 'react'

type Look = 'plain' | 'ink' | 'quiet'

const LOOKS: Record<Look, string> = {
  plain: 'border border-rule-strong bg-sheet hover:border-ink px-2.5 py-1',
  ink: 'border border-ink bg-ink text-paper hover:opacity-90 px-3 py-1',
  quiet: 'px-1.5 py-1 hover:bg-rule/50',
}

/**
 * A button. One that has nothing to do now keeps the keyboard focus, so that whoever works by keyboard is not thrown out
 * of the place when a run is over; `why` says what it waits for.
 */
export function Button({
  look = 'plain',
  className = '',
  disabled = false,
  why,
  title,
  onClick,
  type = 'button',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { look?: Look; why?: string }) {
  return (
    <button
      type={disabled ? 'button' : type}
      aria-disabled={disabled || undefined}
      className={`inline-flex items-center justify-center gap-1.5 rounded-sm leading-5 whitespace-nowrap aria-disabled:cursor-default aria-disabled:opacity-40 ${LOOKS[look]} ${className}`}
      title={disabled && why ? [title, why].filter(Boolean).join(': ') : title}
      onClick={disabled ? undefined : onClick}
      {...rest}
    />
  )
}
