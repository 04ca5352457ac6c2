'use client'

import { Fragment, useRef } from 'react'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { formatNumber } from '../../core/formats/number'
import { Icon } from '../parts/Icon'
import { Section } from '../parts/Section'
import { knobsOf } from '../../core/environment/knobs'
import { newStroke } from '../../session/study/stroke'
import { useCovered, useModel, useStudy } from './study-context'

/** The knobs as sliders. One turn is one step of undo; the model follows in the background. */
export function KnobPanel({ document }: { document: EnvironmentDocument }) {
  const edit = useStudy((state) => state.edit)
  const compiled = useModel((state) => state.compiled)
  const problems = useModel((state) => state.problems)
  // In Build the faults stand under the text or the board.
  const stage = useStudy((state) => state.stage)
  const stroke = useRef(0)
  const knobs = knobsOf(document, compiled)
  // A knob of a hidden bandit would tell what the class is to find out.
  const covered = useCovered() && stage !== 'build'
  if (!knobs.length || covered) return null
  return (
    <Section
      title="Knobs"
      hint="A knob is a number of the environment with a name and a range, turned here in every stage."
    >
      <ul className="grid grid-cols-[fit-content(6.5rem)_minmax(4rem,1fr)_auto_auto] items-center gap-x-3 gap-y-1.5">
        {knobs.map(({ name, title, value, standard, low, high, step, turned }) => {
          const turn = (to: number | null) => edit(turned(to), stroke.current)
          return (
            <li key={name} className="col-span-full grid grid-cols-subgrid items-center">
              <label htmlFor={`knob-${name}`} className="leading-5 wrap-anywhere" title={title}>
                {name.split(/(?<=_)/).map((part, i) => (
                  <Fragment key={i}>
                    {i > 0 && <wbr />}
                    {part}
                  </Fragment>
                ))}
              </label>
              <input
                id={`knob-${name}`}
                type="range"
                min={low}
                max={high}
                step={step}
                value={value}
                onPointerDown={() => (stroke.current = newStroke())}
                onKeyDown={() => (stroke.current = newStroke())}
                onChange={(event) => turn(Number(event.target.value))}
              />
              <output htmlFor={`knob-${name}`} className="min-w-10 text-right font-semibold">
                {formatNumber(value, 4)}
              </output>
              {standard !== null && value !== standard && (
                <button
                  type="button"
                  className="rounded-sm hover:bg-rule/60"
                  title={`Back to ${formatNumber(standard, 4)}, as the rulebook says`}
                  aria-label={`Put ${name} back to ${formatNumber(standard, 4)}`}
                  onClick={() => {
                    stroke.current = newStroke()
                    turn(null)
                  }}
                >
                  <Icon name="restart" className="size-4" />
                </button>
              )}
            </li>
          )
        })}
      </ul>
      {stage !== 'build' && problems.length > 0 && (
        <p role="alert" className="border-l-4 border-alert pl-2.5 text-[14px] leading-5">
          {problems[0].place}: {problems[0].cause} {problems[0].remedy}{' '}
          <span className="text-ink-soft">The board keeps the last model that was right.</span>
        </p>
      )}
    </Section>
  )
}
