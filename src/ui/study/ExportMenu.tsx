'use client'

import { Menu, MenuButton, MenuHeading, MenuItem, MenuItems, MenuSection } from '@headlessui/react'
import { useState } from 'react'
import { exportsOf } from '../../core/formats/exports'
import { ProblemError, type Problem } from '../../core/problem'
import { Modal } from '../parts/Modal'
import { ProblemList } from '../parts/ProblemList'
import { TABLE_EXPORTS, type TableNumbers } from '../../core/formats/tables'
import { downloadBlob, downloadText, fileName } from '../parts/download'
import { finishedSvg } from '../pictures/finished-svg'
import { Icon } from '../parts/Icon'
import { useModel, useParts, useStudy } from './study-context'
import { useStage } from './use-stage'

/** What is drawn on screen. */
const PICTURES = [
  { slot: 'board', title: 'Picture of the board', ending: '-board' },
  { slot: 'beside', title: 'Picture of the board beside', ending: '-beside' },
  { slot: 'strip', title: 'Picture of the strip', ending: '-strip' },
] as const
const NONE = new Float64Array(0)
const NO_NUMBERS: TableNumbers = { values: NONE, rowValues: NONE, policy: NONE }
const NO_PICTURE: readonly Problem[] = [
  {
    place: 'the picture',
    cause: 'There is none on screen now.',
    remedy: 'Choose Board, Curve or Steps to go above the board.',
  },
]

/** Everything that can be taken away as a file. */
export function ExportMenu() {
  const parts = useParts()
  const { study, pictures } = parts
  const document = useStudy((state) => state.document)
  const compiled = useModel((state) => state.compiled)
  const model = compiled?.model
  const { stage } = useStage()
  const slots = [
    'board',
    ...(stage.boards?.(parts) ?? []).map(({ slot }) => slot),
    ...(stage.Strip ? ['strip'] : []),
  ]
  const numbers = stage.numbers(parts)
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const [lost, setLost] = useState<readonly string[]>([])
  const attempt = (run: () => void) => {
    try {
      run()
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error
      setProblems(error.problems)
    }
  }
  const forms = exportsOf(document)
  const environments = forms.map(({ title, ending, type, needsModel, write, losses }) => ({
    title,
    enabled: !needsModel || compiled !== null,
    take: () => {
      const { document: latest } = study.getState()
      attempt(() => {
        downloadText(fileName(latest.name, ending), write(latest, compiled!), type)
        // What a form says of the model needs one; those that need none say it of the document.
        if (compiled) setLost(losses?.(latest, compiled) ?? [])
      })
    },
  }))
  const tables = TABLE_EXPORTS.map(({ title, ending, type, of, write }) => ({
    title,
    enabled: numbers?.[of] !== undefined,
    take: () => {
      const shown = stage.numbers(parts)
      if (!model || !shown) return
      const data = write(model, { ...NO_NUMBERS, ...shown })
      downloadBlob(fileName(document.name, ending), new Blob([data], { type }))
    },
  }))
  const drawn = PICTURES.filter(({ slot }) => slot !== 'beside' || slots.includes(slot)).flatMap(
    ({ slot, title, ending }) => [
      {
        title: `${title} (SVG)`,
        enabled: slots.includes(slot),
        take: async () => {
          const picture = pictures.get(slot)
          if (picture)
            downloadText(
              fileName(document.name, `${ending}.svg`),
              await finishedSvg(await picture.svg()),
              'image/svg+xml',
            )
          else setProblems(NO_PICTURE)
        },
      },
      {
        title: `${title} (PNG)`,
        enabled: slots.includes(slot),
        take: async () => {
          const picture = pictures.get(slot)
          if (picture) downloadBlob(fileName(document.name, `${ending}.png`), await picture.png())
          else setProblems(NO_PICTURE)
        },
      },
    ],
  )
  const groups = [
    { heading: 'Environment', items: environments },
    { heading: 'Tables', items: tables },
    { heading: 'Pictures', items: drawn },
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
          {groups.map(({ heading, items }) => (
            <MenuSection key={heading}>
              <MenuHeading className="px-3 pt-1.5 text-[12px] text-ink-soft">{heading}</MenuHeading>
              {items.map(({ title, enabled, take }) => (
                <MenuItem key={title} disabled={!enabled}>
                  <button
                    type="button"
                    className="block w-full px-3 py-0.5 text-left data-disabled:opacity-40 data-focus:bg-rule/60"
                    title={enabled ? undefined : 'Available in Plan and Learn'}
                    onClick={() => void take()}
                  >
                    {title}
                  </button>
                </MenuItem>
              ))}
            </MenuSection>
          ))}
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
