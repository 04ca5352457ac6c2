'use client'

import { useStore } from 'zustand'
import { learnMethod } from '../../../core/learn/methods/methods'
import { LEARN_PRESETS, type LearnPreset } from '../../../core/learn/presets'
import { Button } from '../../parts/Button'
import { Fold } from '../../study/Fold'
import { isUsed, setting, SETTING_NAMES, type SettingName } from '../../../core/settings/settings'
import { Select } from '../../parts/Select'
import { useParts, useStudy } from '../../study/study-context'
import { SettingField } from './SettingField'
import { firstChoice } from '../../../core/settings/first-choice'
import { copyRunLink } from '../../../session/learn/run-link'

const PRESETS = Object.entries<LearnPreset>(LEARN_PRESETS)
/** Schedules, the table to begin with, ties and stop rules: folded away until they are wanted. */
export function MoreSettings() {
  const { study, learn } = useParts()
  const choice = useStore(learn.store, (state) => state.choice)
  const suggested = useStudy((state) => state.document.learning !== undefined)
  const { settings } = learnMethod(choice.method)
  const isOwn = (name: SettingName) => setting(name).type === 'own'
  const names = SETTING_NAMES.filter(
    (name) => (isOwn(name) || setting(name).shown === 'more') && isUsed(name, settings),
  )
  return (
    <Fold small title="Schedules and more">
      {names.filter(isOwn).map((name) => (
        <SettingField key={name} name={name} more />
      ))}
      <div className="grid grid-cols-2 gap-x-3 gap-y-2">
        {names
          .filter((name) => !isOwn(name))
          .map((name) => (
            <SettingField key={name} name={name} more />
          ))}
      </div>
      <Select
        label="Preset"
        value=""
        options={{
          '': 'choose one …',
          ...Object.fromEntries(PRESETS.map(([id, { title }]) => [id, title])),
        }}
        hint={PRESETS.map(([, { title, hint }]) => `${title}: ${hint}`).join('\n')}
        onChange={(id) => {
          const preset = PRESETS.find(([each]) => each === id)?.[1]
          if (preset) learn.choose(preset.apply(choice))
        }}
      />
      <div className="flex flex-wrap gap-2">
        <Button
          onClick={() => learn.choose(firstChoice(study.getState().document))}
          title={
            suggested
              ? 'The settings that were kept with this environment'
              : 'The settings that learning begins with'
          }
        >
          {suggested ? 'Suggested settings' : 'Usual settings'}
        </Button>
        <Button
          onClick={() => {
            const { document, edit } = study.getState()
            edit({ ...document, learning: choice })
          }}
          title="From now on learning begins with these settings here; they are part of the environment"
        >
          Keep for this environment
        </Button>
        <Button
          onClick={() => void copyRunLink(choice)}
          title="An address that opens Learn with these settings"
        >
          Copy link
        </Button>
      </div>
    </Fold>
  )
}
