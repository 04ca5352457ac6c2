'use client'

import { Waiting } from '../parts/Waiting'
import dynamic from 'next/dynamic'
import { useState } from 'react'
import { Button } from '../parts/Button'
import { Icon } from '../parts/Icon'
import { Modal } from '../parts/Modal'

/** Loaded when it is first opened. */
const Versions = dynamic(() => import('./Versions').then((module) => module.Versions), { loading: Waiting })

/** Opens the earlier states of the environment. */
export function VersionsDialog() {
  const [open, setOpen] = useState(false)
  return (
    <>
      <Button look="quiet" aria-label="Versions" title="Versions" onClick={() => setOpen(true)}>
        <Icon name="clock" />
      </Button>
      <Modal open={open} title="Versions" onClose={() => setOpen(false)}>
        <Versions onClose={() => setOpen(false)} />
      </Modal>
    </>
  )
}
