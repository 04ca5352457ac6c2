'use client'

import { useMemo, type ReactNode } from 'react'
import { PictureContext } from '../pictures/picture-shelf'
import { useParts, useStudy } from './study-context'

/** What is drawn in here is the study's picture of that name. */
export function PictureSlot({ slot, children }: { slot: string; children: ReactNode }) {
  const { pictures } = useParts()
  const title = useStudy((state) => state.document.name)
  const value = useMemo(() => ({ shelf: pictures, slot, title }), [pictures, slot, title])
  return <PictureContext value={value}>{children}</PictureContext>
}
