import type { ButtonHTMLAttributes } from 'react'

type Look = 'plain' | 'ink' | 'quiet'

const LOOKS: Record<Look, string> = {
  plain: 'border border-rule-strong bg-sheet hover:border-ink px-2.5 py-1',
  ink: 'border border-ink bg-ink text-paper hover:opacity-90 px-3 py-1',
  quiet: 'px-1.5 py-1 hover:bg-rule/50',
}

export function Button({
  look = 'plain',
  className = '',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { look?: Look }) {
  return (
    <button
      type="button"
      className={`inline-flex items-center justify-center gap-1.5 rounded-sm leading-5 whitespace-nowrap disabled:pointer-events-none disabled:opacity-40 ${LOOKS[look]} ${className}`}
      {...rest}
    />
  )
}
