'use client'

import { useEffect, useState } from 'react'
import { Button } from '../parts/Button'
import { Icon } from '../parts/Icon'
import { Modal } from '../parts/Modal'
import { KEYS } from './use-study-keys'

/** The list of keys, under `?`. */
export function KeysDialog() {
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
      <Button look="quiet" aria-label="Keys" title="Keys (?)" onClick={() => setOpen(true)}>
        <Icon name="help" />
      </Button>
      <Modal open={open} title="Keys" width="w-[34rem]" onClose={() => setOpen(false)}>
        <dl className="grid grid-cols-[auto_1fr] gap-x-6 gap-y-1.5">
          {KEYS.map(([keys, what]) => (
            <div key={what} className="contents">
              <dt className="font-semibold">{keys}</dt>
              <dd>{what}</dd>
            </div>
          ))}
        </dl>
        <div className="mt-5 text-right">
          <Button look="ink" onClick={() => setOpen(false)}>
            Close
          </Button>
        </div>
      </Modal>
    </>
  )
}
