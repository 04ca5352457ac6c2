'use client'

import { useState } from 'react'
import type { EnvironmentDocument } from '../../../core/kinds/kinds'
import { headKnobsOf, numbersOf } from '../../../core/environment/knobs'
import type { NamedNumber } from '../../../core/environment/named-number'
import { Button } from '../../parts/Button'
import { Icon } from '../../parts/Icon'
import { NameField } from '../../parts/NameField'
import { LineSelect } from '../../parts/Select'
import { NumberField } from '../../parts/NumberField'
import { useStudy } from '../../study/study-context'

/** Gives numbers of the document a name and a range, so that they can be turned in every stage. */
export function KnobList({ document }: { document: EnvironmentDocument }) {
  const edit = useStudy((state) => state.edit)
  const [chosen, setChosen] = useState('')
  const knobs = headKnobsOf(document)
  const free = numbersOf(document).filter(({ key }) => knobs.every(({ sets }) => sets !== key))
  const change = (next: readonly NamedNumber[]) => edit({ ...document, knobs: next })
  const replace = (i: number, part: Partial<NamedNumber>) =>
    change(document.knobs.map((knob, k) => (k === i ? { ...knob, ...part } : knob)))
  const add = () => {
    const number = free.find(({ key }) => key === chosen) ?? free[0]
    if (!number) return
    const name = freeName(number.title, knobs)
    const isChance = number.low === 0 && number.high === 1
    const reach = Math.max(1, Math.abs(number.value))
    change([
      ...document.knobs,
      {
        name,
        sets: number.key,
        low: isChance ? 0 : Math.max(number.low, Math.floor(number.value - reach)),
        high: isChance ? 1 : Math.min(number.high, Math.ceil(number.value + reach)),
        step: isChance ? 0.05 : reach >= 10 ? 1 : 0.1,
      },
    ])
    setChosen('')
  }
  return (
    <>
      <p className="text-[13px] text-ink-soft">
        A knob is a number of this environment with a name and a range: a slider in every stage, --knob on the
        command line, what a variant may set otherwise.
      </p>
      {knobs.map(({ name, low, high, step, number, sets }, i) => (
        <div key={sets} className="border-t border-rule pt-1.5">
          <div className="flex items-center gap-2">
            <span className="min-w-0 flex-1 truncate" title={number?.title ?? sets}>
              {number ? number.title : <span className="text-alert">{sets} is no longer there</span>}
            </span>
            <Button
              look="quiet"
              aria-label={`Remove knob ${name}`}
              title="Remove the knob; the number stays"
              onClick={() => change(document.knobs.filter((_, k) => k !== i))}
            >
              <Icon name="cross" className="size-4" />
            </Button>
          </div>
          <div className="grid grid-cols-4 gap-2">
            <NameField
              name={name}
              limit={40}
              fits={(text) => WORD.test(text) && knobs.every((knob, k) => k === i || knob.name !== text)}
              rule="A word of letters, digits and _ that no other knob has"
              onName={(next) => replace(i, { name: next })}
            />
            <NumberField
              label="From"
              value={low}
              min={number?.low ?? -1e12}
              max={high - 1e-9}
              onChange={(value) => replace(i, { low: value })}
            />
            <NumberField
              label="To"
              value={high}
              min={low + 1e-9}
              max={number?.high ?? 1e12}
              onChange={(value) => replace(i, { high: value })}
            />
            <NumberField
              label="Step"
              value={step}
              min={0}
              max={1e12}
              aboveMin
              onChange={(value) => replace(i, { step: value })}
            />
          </div>
        </div>
      ))}
      {free.length > 0 && (
        <div className="flex gap-2">
          <LineSelect
            label="Number to give a knob"
            className="w-full"
            value={chosen || free[0].key}
            options={free.map(({ key, title }) => [key, title])}
            onChange={setChosen}
          />
          <Button disabled={document.knobs.length >= 50} onClick={add}>
            <Icon name="plus" className="size-4" /> Knob
          </Button>
        </div>
      )}
    </>
  )
}

const WORD = /^[\p{L}_][\p{L}\p{N}_]{0,39}$/u

function freeName(title: string, knobs: readonly NamedNumber[]): string {
  const base =
    title
      .toLowerCase()
      .replace(/[^\p{L}\p{N}]+/gu, '_')
      .replace(/^[^\p{L}]+|_+$/gu, '')
      .slice(0, 30) || 'knob'
  for (let i = 1; ; i++) {
    const name = i === 1 ? base : `${base}_${i}`
    if (knobs.every((knob) => knob.name !== name)) return name
  }
}
