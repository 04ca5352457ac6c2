import { Mark } from '../../ui/parts/Mark'

/** Stands there while a page is on its way. */
export default function Loading() {
  return (
    <main className="flex min-h-dvh flex-col items-center justify-center gap-3 text-ink-soft" aria-busy>
      <Mark className="size-14" />
      <p role="status">Opening the shelf …</p>
    </main>
  )
}
