'use client'

import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react'
import { useEffect, useState } from 'react'
import { Button } from '../parts/Button'
import { Icon } from '../parts/Icon'
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
      <Dialog open={open} onClose={setOpen} className="relative z-50 outline-none">
        <div className="fixed inset-0 bg-ink/30" aria-hidden />
        <div className="fixed inset-0 flex items-center justify-center p-6">
          <DialogPanel className="w-[34rem] max-w-full rounded-sm border border-ink bg-paper p-6">
            <DialogTitle className="font-title text-xl font-semibold">Keys</DialogTitle>
            <dl className="mt-3 grid grid-cols-[auto_1fr] gap-x-6 gap-y-1.5">
              {KEYS.map(([keys, what]) => (
                <div key={keys} className="contents">
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
          </DialogPanel>
        </div>
      </Dialog>
    </>
  )
}
