'use client'

import dynamic from 'next/dynamic'
import { useState } from 'react'
import type { ModalProps } from './ModalSheet'

/** Loaded when one is first opened: a page has many that nobody opens. */
const ModalSheet = dynamic(() => import('./ModalSheet').then((module) => module.ModalSheet), {
  loading: () => null,
})

/** A sheet over the page, with a title; Escape and a click beside it close it. */
export function Modal(props: ModalProps) {
  const [wanted, setWanted] = useState(props.open)
  if (props.open && !wanted) setWanted(true)
  return wanted ? <ModalSheet {...props} /> : null
}
