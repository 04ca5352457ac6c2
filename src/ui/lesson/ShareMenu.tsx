'use client'

import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import dynamic from 'next/dynamic'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { ProblemError } from '../../core/problem'
import { Icon } from '../parts/Icon'
import { useParts } from '../study/study-context'

/** Loaded when a view is first added. */
const AddToLesson = dynamic(() => import('./AddToLesson').then((module) => module.AddToLesson), {
  loading: () => null,
})

const FollowDialog = dynamic(() => import('../class/FollowDialog').then((module) => module.FollowDialog), {
  loading: () => null,
})

/** How long it is said that a link was copied, in milliseconds. */
const TOLD = 4000

/** What can be done with what is on the screen: a link to it, a view of a lesson. */
export function ShareMenu() {
  const parts = useParts()
  const router = useRouter()
  const [adding, setAdding] = useState(false)
  const [following, setFollowing] = useState(false)
  const [told, setTold] = useState<string | null>(null)
  const copy = async () => {
    try {
      const { linkToView } = await import('../../session/lesson/link-to-view')
      const link = await linkToView(parts, window.location.href)
      // The address bar has it too, for browsers that give no access to the clipboard.
      window.history.replaceState(null, '', link)
      await navigator.clipboard.writeText(link)
      setTold('The link to this view is copied.')
    } catch (error) {
      setTold(error instanceof ProblemError ? error.message : 'The link stands in the address bar.')
    }
    setTimeout(() => setTold(null), TOLD)
  }
  const handOut = async () => {
    try {
      const { downloadView } = await import('./hand-out')
      await downloadView(parts)
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error
      setTold(error.message)
      setTimeout(() => setTold(null), TOLD)
    }
  }
  const report = async () => {
    // It shows what is saved.
    await parts.study.getState().save()
    router.push(`/environment/${parts.study.getState().id}/report`)
  }
  return (
    <>
      <Menu>
        <MenuButton
          className="rounded-sm px-1.5 py-1 hover:bg-rule/50"
          aria-label="Share this view"
          title="Share this view: link, lesson"
        >
          <Icon name="share" />
        </MenuButton>
        <MenuItems
          anchor="bottom end"
          className="z-40 mt-1 rounded-sm border border-ink bg-sheet py-1 text-ink shadow-lg"
        >
          {(
            [
              ['Add to a lesson …', () => setAdding(true)],
              ['Copy a link to this view', () => void copy()],
              ['Hand it out as a page (.html)', () => void handOut()],
              ['Report to print', () => void report()],
              ['Let a class follow …', () => setFollowing(true)],
            ] as const
          ).map(([title, act]) => (
            <MenuItem key={title}>
              <button
                type="button"
                className="block w-full px-3 py-1 text-left data-focus:bg-rule/50"
                onClick={act}
              >
                {title}
              </button>
            </MenuItem>
          ))}
        </MenuItems>
      </Menu>
      {told && (
        <div
          role="status"
          className="fixed bottom-6 left-1/2 z-50 -translate-x-1/2 rounded-sm border border-ink bg-ink px-4 py-2 text-paper"
        >
          {told}
        </div>
      )}
      {following && <FollowDialog onClose={() => setFollowing(false)} />}
      {adding && <AddToLesson open onClose={() => setAdding(false)} />}
    </>
  )
}
