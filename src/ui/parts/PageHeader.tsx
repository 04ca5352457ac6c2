import Link from 'next/link'
import type { ReactNode } from 'react'
import { ThemeButton } from '../theme/ThemeButton'
import { Mark } from './Mark'

/** The head of a page that is not a study: the mark, what the page is, and where one goes from here. */
export function PageHeader({
  title,
  children,
  back = '/',
  backWords = 'Back to the shelf',
  actions,
}: {
  title: string
  /** A sentence below the title. */
  children: ReactNode
  /** Where the mark leads to; null for nowhere. */
  back?: string | null
  backWords?: string
  actions?: ReactNode
}) {
  return (
    <header className="flex flex-wrap items-center gap-x-3 gap-y-2 px-4 pt-4 sm:px-8 sm:pt-6">
      {back === null ? (
        <Mark className="size-12" />
      ) : (
        <Link href={back} aria-label={backWords} title={backWords}>
          <Mark className="size-12" />
        </Link>
      )}
      <div className="mr-auto w-0 min-w-40 grow">
        <h1 className="font-title text-[30px] leading-9 font-semibold break-words italic sm:text-[34px]">
          {title}
        </h1>
        <div className="text-ink-soft">{children}</div>
      </div>
      <div className="flex flex-wrap items-center justify-end gap-x-3 gap-y-2">
        {actions}
        <ThemeButton />
      </div>
    </header>
  )
}

/** A link that looks like a button. */
export function ButtonLink({ href, children }: { href: string; children: ReactNode }) {
  return (
    <Link
      href={href}
      prefetch={false}
      className="rounded-sm border border-rule-strong bg-sheet px-2.5 py-1 leading-5 whitespace-nowrap hover:border-ink"
    >
      {children}
    </Link>
  )
}
