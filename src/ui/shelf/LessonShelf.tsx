'use client'

import Link from 'next/link'
import { useRouter } from 'next/navigation'
import type { LessonSummary } from '../../server/contract/lessons'
import { Button } from '../parts/Button'
import { Icon } from '../parts/Icon'

/** The lessons, above the environments they show. */
export function LessonShelf({
  lessons,
  change,
  onDeleted,
}: {
  lessons: readonly LessonSummary[]
  /** Runs something that changes the shelf. */
  change(title: string, run: () => Promise<unknown>): void
  onDeleted(deleted: { readonly name: string; readonly restore: () => Promise<unknown> }): void
}) {
  const router = useRouter()
  return (
    <section aria-label="Lessons" className="pt-5">
      <div className="flex items-center gap-3 border-b border-rule-strong pb-1">
        <h2 className="font-title text-[21px] font-semibold">Lessons</h2>
        <span className="min-w-0 truncate text-[13px] text-ink-soft">
          Views in order, to show to a class and to hand out.
        </span>
        <Button
          className="ml-auto !py-0.5 text-[14px]"
          onClick={() =>
            change('The lesson could not be made', async () => {
              const { makeLesson } = await import('./lesson-actions')
              router.push(`/lesson/${await makeLesson()}`)
            })
          }
        >
          <Icon name="plus" className="size-4" /> New lesson
        </Button>
      </div>
      {lessons.length > 0 && (
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(min(21rem,100%),1fr))] gap-x-6">
          {lessons.map(({ id, name, views }) => (
            <li key={id} className="group flex items-baseline gap-2 border-b border-rule py-1.5">
              <Link
                href={`/lesson/${id}`}
                prefetch={false}
                className="min-w-0 truncate font-title text-[17px] font-semibold hover:underline"
              >
                {name}
              </Link>
              <span className="ml-auto shrink-0 text-[13px] text-ink-soft">
                {views} view{views === 1 ? '' : 's'}
              </span>
              {views > 0 && (
                <Link
                  href={`/lesson/${id}/present`}
                  prefetch={false}
                  aria-label={`Present ${name}`}
                  className="shrink-0 text-[13px] underline decoration-dotted underline-offset-4"
                >
                  Present
                </Link>
              )}
              <button
                type="button"
                className="shrink-0 self-center rounded-sm px-0.5 text-ink-soft hover:bg-rule/50 hover:text-ink"
                aria-label={`Delete ${name}`}
                title="Delete it"
                onClick={() =>
                  change('The lesson could not be deleted', async () => {
                    const { removeLesson } = await import('./lesson-actions')
                    onDeleted({ name, restore: await removeLesson(id) })
                  })
                }
              >
                <Icon name="cross" className="size-3.5" />
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}
