'use client'

import type { Contestant } from '../../../core/compare/contestant'
import { knobsOf } from '../../../core/environment/knobs'
import { EXPLORATIONS } from '../../../core/learn/explore/explorations'
import {
  LEARN_METHOD_IDS,
  LEARN_METHODS,
  learnMethod,
  type LearnMethodId,
} from '../../../core/learn/methods/methods'
import { constant } from '../../../core/learn/schedule'
import type { LearnChoice } from '../../../core/settings/choice'
import { NumberField } from '../../parts/NumberField'
import { Select } from '../../parts/Select'
import { useModel, useParts, useStudy } from '../../study/study-context'

const METHODS = Object.fromEntries(
  LEARN_METHOD_IDS.filter((id) => learnMethod(id).purpose === 'control').map((id) => [
    id,
    LEARN_METHODS[id].title,
  ]),
)

/** What is changed most about a contestant: its method, a few numbers, and the knobs of its environment. */
export function ContestantFields({ contestant, name }: { contestant: Contestant; name: string }) {
  const { compare } = useParts()
  const document = useStudy((state) => state.document)
  const compiled = useModel((state) => state.compiled)
  const { id, choice, knobs } = contestant
  const { settings } = learnMethod(choice.method)
  const choose = (part: Partial<LearnChoice>) => compare.change(id, { choice: { ...choice, ...part } })
  const { way, level } = choice.exploration
  return (
    <div
      role="group"
      aria-label={`Settings of ${name}`}
      className="grid grid-cols-2 items-end gap-x-3 gap-y-2"
    >
      <div className="col-span-2">
        <Select
          label="Method"
          value={choice.method}
          options={METHODS}
          onChange={(value) => choose({ method: value as LearnMethodId })}
        />
      </div>
      {settings.includes('learningRate') && (
        <NumberField
          label="Learning rate"
          value={choice.learningRate.from}
          min={0}
          max={1e6}
          hint="Constant throughout, once it is changed here; schedules are set in Learn."
          onChange={(rate) => choose({ learningRate: constant(rate) })}
        />
      )}
      {settings.includes('exploration') && (
        <NumberField
          label={EXPLORATIONS[way].level}
          value={level.from}
          {...EXPLORATIONS[way].range}
          hint="Constant throughout, once it is changed here; schedules are set in Learn."
          onChange={(value) => choose({ exploration: { way, level: constant(value) } })}
        />
      )}
      <NumberField
        label="Episodes"
        whole
        value={choice.episodes}
        min={1}
        max={1_000_000}
        onChange={(episodes) => choose({ episodes })}
      />
      {knobsOf(document, compiled).map((knob) => (
        <NumberField
          key={knob.name}
          label={`Knob ${knob.name}`}
          value={knobs[knob.name] ?? knob.value}
          min={knob.low}
          max={knob.high}
          hint="For this contestant only; set to what the environment says, it follows that again."
          onChange={(value) => {
            const { [knob.name]: _, ...others } = knobs
            compare.change(id, { knobs: value === knob.value ? others : { ...others, [knob.name]: value } })
          }}
        />
      ))}
    </div>
  )
}
