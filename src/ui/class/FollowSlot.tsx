'use client'

import dynamic from 'next/dynamic'
import { useEffect } from 'react'
import { useStore } from 'zustand'
import { followedClass, takeUpFollowed } from '../../session/lesson/followed-class'
import type { ShownWords } from './FollowedScreen'

/** Loaded when a class follows. */
const FollowedScreen = dynamic(() => import('./FollowedScreen').then((module) => module.FollowedScreen), {
  loading: () => null,
})

/** Where it is told that a class follows what is shown. */
export function FollowSlot(words: ShownWords) {
  const wanted = useStore(followedClass, ({ followed, problem }) => followed !== null || problem !== null)
  useEffect(takeUpFollowed, [])
  return wanted ? <FollowedScreen {...words} /> : null
}
