'use client'

import { Menu, MenuButton, MenuItems } from '@headlessui/react'
import dynamic from 'next/dynamic'
import { useState } from 'react'
import type { Problem } from '../../core/problem'
import { Icon } from '../parts/Icon'
import { Modal } from '../parts/Modal'
import { ProblemList } from '../parts/ProblemList'
import { Waiting } from '../parts/Waiting'

/** Loaded when the menu is first opened. */
const ExportItems = dynamic(() => import('./ExportItems').then((module) => module.ExportItems), {
  loading: Waiting,
})

/** Everything that can be taken away as a file. */
export function ExportMenu() {
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const [lost, setLost] = useState<readonly string[]>([])
  return (
    <>
      <Menu>
        <MenuButton className="rounded-sm px-1.5 py-1 hover:bg-rule/50" aria-label="Export" title="Export">
          <Icon name="tray" />
        </MenuButton>
        <MenuItems
          anchor="bottom end"
          className="z-40 mt-1 rounded-sm border border-ink bg-sheet py-1 text-ink shadow-lg"
        >
          <ExportItems setProblems={setProblems} setLost={setLost} />
        </MenuItems>
      </Menu>
      <Modal
        open={lost.length > 0}
        title="Exported. This format leaves out:"
        width="w-[30rem]"
        onClose={() => setLost([])}
      >
        <ul className="list-disc space-y-1 pl-5">
          {lost.map((each) => (
            <li key={each}>{each}</li>
          ))}
        </ul>
      </Modal>
      <Modal
        open={problems.length > 0}
        title="It could not be exported"
        width="w-[30rem]"
        onClose={() => setProblems([])}
      >
        <ProblemList problems={problems} />
      </Modal>
    </>
  )
}
