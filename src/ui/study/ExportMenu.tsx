'use client'

import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import { useState } from 'react'
import { EXPORT_IDS, exportForm } from '../../core/formats/exports'
import { ProblemError, type Problem } from '../../core/problem'
import { Modal } from '../parts/Modal'
import { ProblemList } from '../parts/ProblemList'
import { writeActionValues, writeValues } from '../../core/formats/tables'
import { downloadText, fileName } from '../parts/download'
import { Icon } from '../parts/Icon'
import { useModel, useParts, useStudy } from './study-context'

/** Everything that can be taken away as a file. */
export function ExportMenu() {
  const { study, plan, learn } = useParts()
  const stage = useStudy((state) => state.stage)
  const document = useStudy((state) => state.document)
  const compiled = useModel((state) => state.compiled)
  const model = compiled?.model
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const attempt = (run: () => void) => {
    try {
      run()
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error
      setProblems(error.problems)
    }
  }
  const numbers = () => {
    if (!model) return null
    if (stage === 'plan') {
      const { frame } = plan.store.getState()
      return frame && { model, values: frame.values, rowValues: frame.rowValues }
    }
    const { frame } = learn.store.getState()
    return stage === 'learn' && frame ? { model, values: frame.values, rowValues: frame.rowValues } : null
  }
  const forms = EXPORT_IDS.map(exportForm).filter(({ kinds }) => !kinds || kinds.includes(document.kind))
  const items = [
    ...forms.map(({ title, ending, type, needsModel, write }) => ({
      title,
      enabled: !needsModel || compiled !== null,
      take: () => {
        const { document: latest } = study.getState()
        attempt(() => downloadText(fileName(latest.name, ending), write(latest, compiled!), type))
      },
    })),
    {
      title: 'Values (CSV)',
      enabled: stage !== 'build',
      take: () => {
        const shown = numbers()
        if (shown)
          downloadText(
            fileName(document.name, '-values.csv'),
            writeValues(shown.model, shown.values),
            'text/csv',
          )
      },
    },
    {
      title: 'Action values (CSV)',
      enabled: stage !== 'build',
      take: () => {
        const shown = numbers()
        if (shown)
          downloadText(
            fileName(document.name, '-action-values.csv'),
            writeActionValues(shown.model, shown.rowValues),
            'text/csv',
          )
      },
    },
  ]
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
          {items.map(({ title, enabled, take }) => (
            <MenuItem key={title} disabled={!enabled}>
              <button
                type="button"
                className="block w-full px-3 py-1 text-left data-disabled:opacity-40 data-focus:bg-rule/60"
                title={enabled ? undefined : 'Comes with Plan and Learn'}
                onClick={take}
              >
                {title}
              </button>
            </MenuItem>
          ))}
        </MenuItems>
      </Menu>
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
