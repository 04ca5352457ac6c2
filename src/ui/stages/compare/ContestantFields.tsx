'use client'

import { useEffect, useState } from 'react'
import type { Contestant } from '../../../core/compare/contestant'
import { knobsOf } from '../../../core/environment/knobs'
import { optionsOf } from '../../../core/kinds/options'
import { EXPLORATIONS } from '../../../core/learn/explore/explorations'
import {
  LEARN_METHOD_IDS,
  LEARN_METHODS,
  learnMethod,
  type LearnMethodId,
} from '../../../core/learn/methods/methods'
import { withMethod } from '../../../core/settings/with-method'
import { constant } from '../../../core/learn/schedule'
import type { LearnChoice } from '../../../core/settings/choice'
import { ProblemError } from '../../../core/problem'
import type { EnvironmentSummary } from '../../../server/contract/environments'
import { listEnvironments, readEnvironment } from '../../../session/api/environments'
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
  const { id, choice, knobs, follows, environment } = contestant
  const { settings } = learnMethod(choice.method)
  const choose = (part: Partial<LearnChoice>) => compare.change(id, { choice: { ...choice, ...part } })
  const { way, level } = choice.exploration
  return (
    <div
      role="group"
      aria-label={`Settings of ${name}`}
      className="grid grid-cols-2 items-end gap-x-3 gap-y-2"
    >
      <EnvironmentField contestant={contestant} />
      {!follows && (
        <div className="col-span-2">
          <Select
            label="Method"
            value={choice.method}
            options={METHODS}
            onChange={(value) => compare.change(id, { choice: withMethod(choice, value as LearnMethodId) })}
          />
        </div>
      )}
      {!follows && settings.includes('learningRate') && (
        <NumberField
          label="Learning rate"
          value={choice.learningRate.from}
          min={0}
          max={1e6}
          hint="Constant throughout, once it is changed here; schedules are set in Learn."
          onChange={(rate) => choose({ learningRate: constant(rate) })}
        />
      )}
      {!follows && settings.includes('exploration') && (
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
      {(environment ? knobsOf(environment) : knobsOf(document, compiled)).map((knob) => (
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
      {optionsOf(environment ?? document).map((option) => (
        <Select
          key={option.name}
          label={option.name.replace(/^./, (first) => first.toUpperCase())}
          value={contestant.options?.[option.name] ?? option.value}
          options={Object.fromEntries(
            [...new Set([...option.values, contestant.options?.[option.name] ?? option.value])].map(
              (value) => [value, value === option.value ? `${value} (as it is)` : value],
            ),
          )}
          hint="For this contestant only."
          onChange={(value) => {
            const { [option.name]: _, ...others } = contestant.options ?? {}
            compare.change(id, {
              options: value === option.value ? others : { ...others, [option.name]: value },
            })
          }}
        />
      ))}
    </div>
  )
}

/** Which environment it acts in: this one, or a copy of another one of the shelf. */
function EnvironmentField({ contestant }: { contestant: Contestant }) {
  const { compare, study } = useParts()
  const { id, environment } = contestant
  const [shelf, setShelf] = useState<readonly EnvironmentSummary[]>([])
  const [problem, setProblem] = useState<string | null>(null)
  const attempt = async (work: () => Promise<void>) => {
    try {
      setProblem(null)
      await work()
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error
      setProblem(error.message)
    }
  }
  useEffect(() => {
    // Without an answer there is this environment alone to choose.
    void listEnvironments().then(setShelf, () => {})
  }, [])
  const here = study.getState().id
  const take = (value: string) =>
    attempt(async () => {
      if (value === COPY) return
      if (value === HERE) return compare.change(id, { environment: undefined, knobs: {}, options: {} })
      const { document } = await readEnvironment(value)
      compare.change(id, { environment: document, knobs: {}, options: {} })
    })
  return (
    <div className="col-span-2">
      <Select
        label="Environment"
        value={environment ? COPY : HERE}
        options={{
          [HERE]: 'this one',
          ...(environment ? { [COPY]: `${environment.name} (a copy)` } : {}),
          ...Object.fromEntries(shelf.filter((each) => each.id !== here).map((each) => [each.id, each.name])),
        }}
        hint="Of another one of the shelf a copy is kept, as it is now; choose it again to bring it up to date."
        onChange={(value) => void take(value)}
      />
      {problem && (
        <p role="alert" className="text-[13px] text-alert">
          {problem}
        </p>
      )}
    </div>
  )
}
const HERE = 'here'
const COPY = 'copy'
