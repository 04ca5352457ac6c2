/** Line drawings on a 20 x 20 sheet, in the colour of the text around them. */
const SHAPES = {
  undo: 'M7 5 3.500 8.500 7 12M4 8.500h7.500a4 4 0 0 1 0 8H8',
  redo: 'm13 5 3.500 3.500L13 12m3-3.500H8.500a4 4 0 0 0 0 8H12',
  play: 'M6 4.500v11l9.500-5.500z',
  pause: 'M7 4.500v11M13 4.500v11',
  forward: 'M5 5v10l6.500-5zM14 5v10',
  back: 'M15 5v10L8.500 10zM6 5v10',
  start: 'M16 5v10l-5.500-5zM10 5v10l-5.500-5zM3.500 5v10',
  end: 'M4 5v10l5.500-5zM10 5v10l5.500-5zM16.500 5v10',
  restart: 'M4.500 10a5.500 5.500 0 1 0 2-4.200M4 3.500V7h3.500',
  more: 'M5 10h.01M10 10h.01M15 10h.01',
  sun: 'M10 6.500a3.500 3.500 0 1 1 0 7 3.500 3.500 0 0 1 0-7zM10 2.500v1M10 16.500v1M2.500 10h1M16.500 10h1M4.700 4.700l.7.7M14.600 14.600l.7.7M4.700 15.300l.7-.7M14.600 5.400l.7-.7',
  moon: 'M15.500 12A6.500 6.500 0 0 1 8 4.500a6.500 6.500 0 1 0 7.500 7.500z',
  help: 'M7.500 7.500a2.500 2.500 0 1 1 3.600 2.200c-.8.4-1.100.8-1.100 1.800M10 14.500h.01',
  plus: 'M10 4.500v11M4.500 10h11',
  down: 'm6 8 4 4 4-4',
  tray: 'M10 3.500v8m-3-3 3 3 3-3M4 13v3h12v-3',
  clock: 'M10 3.500a6.500 6.500 0 1 1 0 13 6.500 6.500 0 0 1 0-13zM10 6.500V10l2.500 2',
  spread: 'M11.500 4H16v4.500M16 4l-5 5M8.500 16H4v-4.500M4 16l5-5',
  shrink: 'M16 4l-5 5M11 4.500V9h4.500M4 16l5-5M9 15.500V11H4.500',
  share:
    'M7 10.500 13 7M7 10.500 13 14M5.500 8.500a2 2 0 1 1 0 4 2 2 0 0 1 0-4zM14.500 4a2 2 0 1 1 0 4 2 2 0 0 1 0-4zM14.500 13a2 2 0 1 1 0 4 2 2 0 0 1 0-4z',
  cross: 'm5.500 5.500 9 9m0-9-9 9',
} as const

export type IconName = keyof typeof SHAPES

export function Icon({ name, className = 'size-5' }: { name: IconName; className?: string }) {
  return (
    <svg
      viewBox="0 0 20 20"
      className={className}
      fill="none"
      stroke="currentColor"
      strokeWidth={name === 'more' ? 2.4 : 1.5}
      strokeLinecap="round"
      strokeLinejoin="round"
      aria-hidden
    >
      <path d={SHAPES[name]} />
    </svg>
  )
}
