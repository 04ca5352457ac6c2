'use client'

import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import { writeActionValues, writeValues } from '../../core/formats/tables'
import { writeTransitionList } from '../../core/table/transition-list'
import { downloadText, fileName } from '../parts/download'
import { Icon } from '../parts/Icon'
import { useModel, useParts, useStudy } from './study-context'

/** Everything that can be taken away as a file. */
export function ExportMenu() {
  const { study, plan, learn } = useParts()
  const stage = useStudy((state) => state.stage)
  const document = useStudy((state) => state.document)
  const model = useModel((state) => state.compiled?.model)
  const numbers = () => {
    if (!model) return null
    if (stage === 'plan') {
      const { frame } = plan.store.getState()
      return frame && { model, values: frame.values, rowValues: frame.rowValues }
    }
    const { frame } = learn.store.getState()
    return stage === 'learn' && frame ? { model, values: frame.values, rowValues: frame.rowValues } : null
  }
  const items = [
    {
      title: 'Environment (JSON)',
      enabled: true,
      take: () =>
        downloadText(
          fileName(document.name, '.json'),
          JSON.stringify(study.getState().document, null, 2) + '\n',
          'application/json',
        ),
    },
    ...(document.kind === 'rulebook'
      ? [
          {
            title: 'Rulebook (text)',
            enabled: true,
            take: () => downloadText(fileName(document.name, '.rules'), document.rulebook.text, 'text/plain'),
          },
        ]
      : []),
    {
      title: 'Transition list (CSV)',
      enabled: model !== undefined,
      take: () => {
        if (model)
          downloadText(fileName(document.name, '-transitions.csv'), writeTransitionList(model), 'text/csv')
      },
    },
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
  )
}
