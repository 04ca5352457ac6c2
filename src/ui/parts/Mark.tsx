/** The mark: a pawn, jauntily tilted. */
export function Mark({ className = 'size-7' }: { className?: string }) {
  return (
    <svg viewBox="0 0 32 32" className={className} aria-hidden>
      <g
        transform="rotate(14 16 18)"
        fill="var(--brass-bright)"
        stroke="var(--ink)"
        strokeWidth="1.6"
        strokeLinejoin="round"
      >
        <circle cx="16" cy="8.5" r="5" />
        <path d="M11 15.500h10l-2 2.500c.5 4 2 6 3.500 8h-13c1.500-2 3-4 3.500-8z" />
        <path d="M7.500 26h17v3h-17z" />
      </g>
    </svg>
  )
}
