'use client'

import dynamic from 'next/dynamic'
import { useEffect, useState } from 'react'
import { Button } from '../parts/Button'
import { Icon } from '../parts/Icon'
import { Modal } from '../parts/Modal'
import { Waiting } from '../parts/Waiting'

/** Loaded when it is first opened. */
const HelpSheet = dynamic(() => import('./HelpSheet').then((module) => module.HelpSheet), {
  loading: Waiting,
})

/** What is on the screen of this stage, a sentence each, and the keys that work there: under `?`. */
export function HelpDialog() {
  const [open, setOpen] = useState(false)
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.key === '?' && !(event.target as HTMLElement).closest('input, textarea, select'))
        setOpen(true)
    }
    window.addEventListener('keydown', press)
    return () => window.removeEventListener('keydown', press)
  }, [])
  return (
    <>
      <Button
        look="quiet"
        aria-label="Help"
        title="What is on this screen, and its keys (?)"
        onClick={() => setOpen(true)}
      >
        <Icon name="help" />
      </Button>
      <Modal open={open} title="On this screen" width="w-[44rem]" onClose={() => setOpen(false)}>
        <HelpSheet onClose={() => setOpen(false)} />
      </Modal>
    </>
  )
}
