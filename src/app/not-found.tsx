import Link from 'next/link'
import { Mark } from '../ui/parts/Mark'

export default function NotFound() {
  return (
    <main className="mx-auto flex min-h-dvh max-w-xl flex-col items-start justify-center gap-3 px-6">
      <Mark className="size-16 rotate-90" />
      <h1 className="font-title text-3xl font-semibold">Nothing is here</h1>
      <p>It was deleted, or the address is wrong.</p>
      <Link href="/" className="rounded-sm border border-ink bg-ink px-3 py-1 text-paper">
        To the start page
      </Link>
    </main>
  )
}
