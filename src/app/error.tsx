'use client'

import Link from 'next/link'
import { Button } from '../ui/parts/Button'

export default function ErrorPage({ error, reset }: { error: Error; reset(): void }) {
  return (
    <main className="mx-auto flex min-h-dvh max-w-xl flex-col items-start justify-center gap-3 px-6">
      <h1 className="font-title text-3xl font-semibold">Something went wrong</h1>
      <p>This is a fault of the program, not yours. What was saved is safe.</p>
      <pre className="max-w-full overflow-auto text-[13px] whitespace-pre-wrap text-ink-soft">
        {error.message}
      </pre>
      <div className="flex gap-2">
        <Button look="ink" onClick={reset}>
          Try again
        </Button>
        <Link href="/" className="rounded-sm border border-rule-strong bg-sheet px-2.5 py-1">
          To the shelf
        </Link>
      </div>
    </main>
  )
}
