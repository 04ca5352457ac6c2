'use client'

import { useStore } from 'zustand'
import { learnMethod } from '../../../core/learn/methods/methods'
import { LEARN_PRESETS, type LearnPreset } from '../../../core/learn/presets'
import {
  EXPLORATIONS,
  type ExplorationWay,
  type StartTable,
  type StopRule,
} from '../../../core/settings/settings'
import { Button } from '../../parts/Button'
import { NumberField } from '../../parts/NumberField'
import { Select } from '../../parts/Select'
import { useParts, useStudy } from '../../study/study-context'
import { explorationOf } from './LearnFields'
import { firstChoice } from '../../../session/learn/learn-session'
import { copyRunLink } from '../../../session/learn/run-link'
import { ScheduleFields } from './ScheduleFields'

const PRESETS = Object.entries<LearnPreset>(LEARN_PRESETS)
const STARTS: Record<StartTable['kind'], string> = {
  zero: 'zero',
  constant: 'the same number',
  random: 'small random numbers',
}
const STOPS: Record<StopRule['kind'], string> = {
  episodes: 'after all episodes',
  'mean-return': 'when the mean return is high',
  steps: 'after so many steps',
}
const NEW_START: Record<StartTable['kind'], StartTable> = {
  zero: { kind: 'zero' },
  constant: { kind: 'constant', value: 10 },
  random: { kind: 'random', spread: 0.01 },
}
const NEW_STOP: Record<StopRule['kind'], StopRule> = {
  episodes: { kind: 'episodes' },
  'mean-return': { kind: 'mean-return', atLeast: 0, over: 100 },
  steps: { kind: 'steps', count: 10_000 },
}

/** Schedules, the table to begin with, ties and stop rules: folded away until they are wanted. */
export function MoreSettings() {
  const { study, learn } = useParts()
  const choice = useStore(learn.store, (state) => state.choice)
  const suggested = useStudy((state) => state.document.learning !== undefined)
  const { settings, tableHolds } = learnMethod(choice.method)
  const { exploration, start, stop } = choice
  const holds = tableHolds === 'values' ? 'Values begin at' : 'The table begins with'
  return (
    <details className="group border-y border-rule py-1.5">
      <summary className="cursor-pointer text-[14px] font-semibold">Schedules and more</summary>
      <div className="space-y-3 pt-2">
        {settings.includes('exploration') && (
          <div className="space-y-2">
            <Select
              label="Explores"
              value={exploration.way}
              options={Object.fromEntries(
                Object.entries(EXPLORATIONS).map(([way, { title }]) => [way, title]),
              )}
              hint={EXPLORATIONS[exploration.way].hint}
              onChange={(way) => learn.choose({ exploration: explorationOf(way as ExplorationWay) })}
            />
            <ScheduleFields
              of={EXPLORATIONS[exploration.way].level}
              schedule={exploration.level}
              episodes={choice.episodes}
              min={0}
              max={exploration.way === 'softmax' ? 1e9 : 1}
              aboveMin={exploration.way === 'softmax'}
              floor={0.05}
              onChange={(level) => learn.choose({ exploration: { ...exploration, level } })}
            />
          </div>
        )}
        {settings.includes('learningRate') && (
          <ScheduleFields
            of="Learning rate"
            schedule={choice.learningRate}
            episodes={choice.episodes}
            min={0}
            max={tableHolds === 'preferences' ? 1000 : 1}
            aboveMin
            isRate
            floor={0.01}
            onChange={(learningRate) => learn.choose({ learningRate })}
          />
        )}
        <div className="grid grid-cols-2 gap-x-3 gap-y-2">
          {settings.includes('start') && (
            <Select
              label={holds}
              value={start.kind}
              options={STARTS}
              hint="What is known before the first update. More than can be had is optimistic: everything gets tried by itself. Endings are always 0."
              onChange={(kind) => learn.choose({ start: NEW_START[kind as StartTable['kind']] })}
            />
          )}
          {start.kind === 'constant' && (
            <NumberField
              label="Number"
              value={start.value}
              min={-1e9}
              max={1e9}
              hint="What every cell of the table begins with."
              onChange={(value) => learn.choose({ start: { ...start, value } })}
            />
          )}
          {start.kind === 'random' && (
            <NumberField
              label="Up to ±"
              value={start.spread}
              min={0}
              max={1e9}
              hint="Cells begin anywhere between minus and plus this."
              onChange={(spread) => learn.choose({ start: { ...start, spread } })}
            />
          )}
          {settings.includes('ties') && (
            <Select
              label="Among equals takes"
              value={choice.ties}
              options={{ random: 'any', first: 'the first' }}
              hint="With the first, a fresh agent whose table is all the same goes the same way for ever, into a wall if it must."
              onChange={(ties) => learn.choose({ ties: ties as 'random' | 'first' })}
            />
          )}
          <Select
            label="Stops"
            value={stop.kind}
            options={STOPS}
            hint="When the run is over before all its episodes are played."
            onChange={(kind) => learn.choose({ stop: NEW_STOP[kind as StopRule['kind']] })}
          />
          {stop.kind === 'steps' && (
            <NumberField
              label="Steps"
              whole
              value={stop.count}
              min={1}
              max={1e12}
              hint="The run is over after so many steps."
              onChange={(count) => learn.choose({ stop: { ...stop, count } })}
            />
          )}
          {stop.kind === 'mean-return' && (
            <>
              <NumberField
                label="Mean of at least"
                value={stop.atLeast}
                min={-1e9}
                max={1e9}
                hint="The run is over as soon as the mean return is this high."
                onChange={(atLeast) => learn.choose({ stop: { ...stop, atLeast } })}
              />
              <NumberField
                label="Over (episodes)"
                whole
                value={stop.over}
                min={1}
                max={1_000_000}
                hint="How many episodes the mean is taken over."
                onChange={(over) => learn.choose({ stop: { ...stop, over } })}
              />
            </>
          )}
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
      </div>
    </details>
  )
}
