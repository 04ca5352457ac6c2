'use client'

import { MenuHeading, MenuItem, MenuSection } from '@headlessui/react'
import { exportsOf, lateExportsOf } from '../../core/formats/exports'
import { TABLE_EXPORTS } from '../../core/formats/tables'
import { ProblemError, type Problem } from '../../core/problem'
import { finishedSvg } from '../pictures/finished-svg'
import { downloadBlob, downloadText } from '../parts/download'
import { fileName } from '../../core/formats/file-name'
import { useModel, useParts, useStudy } from './study-context'
import { useStage } from './use-stage'

/** What is drawn on screen. */
const PICTURES = [
  { slot: 'board', title: 'Picture of the board', ending: '-board' },
  { slot: 'beside', title: 'Picture of the board beside', ending: '-beside' },
  { slot: 'strip', title: 'Picture of the strip', ending: '-strip' },
] as const
const NONE = new Float64Array(0)
const NO_NUMBERS = { values: NONE, rowValues: NONE, policy: NONE }
const NO_PICTURE: readonly Problem[] = [
  {
    place: 'the picture',
    cause: 'There is none on screen now.',
    remedy: 'Choose Board, Curve or Steps to go above the board.',
  },
]

/** All that can be taken away now, in groups. */
export function ExportItems({
  setProblems,
  setLost,
}: {
  setProblems(problems: readonly Problem[]): void
  setLost(lost: readonly string[]): void
}) {
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
  const late = lateExportsOf(document).map(({ title, ending, type, needsModel, load }) => ({
    title,
    enabled: !needsModel || compiled !== null,
    take: async () => {
      const write = await load()
      const { document: latest } = study.getState()
      attempt(() => downloadText(fileName(latest.name, ending), write(latest, compiled!), type))
    },
  }))
  const tables = TABLE_EXPORTS.map(({ title, ending, type, of, write }) => ({
    title,
    enabled: of === null ? model !== undefined : numbers?.[of] !== undefined,
    take: () => {
      const shown = stage.numbers(parts)
      if (!model || (of !== null && !shown)) return
      const data = write(model, { ...NO_NUMBERS, discount: document.discount, ...shown })
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
    { heading: 'Environment', items: [...environments, ...late] },
    { heading: 'Tables', items: tables },
    { heading: 'Pictures', items: drawn },
  ]
  return groups.map(({ heading, items }) => (
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
  ))
}
