'use client'

import { useStore } from 'zustand'
import { formatNumber } from '../../../core/formats/number'
import { Button } from '../../parts/Button'
import { Icon } from '../../parts/Icon'
import { NumberField } from '../../parts/NumberField'
import { Select } from '../../parts/Select'
import { knobsOf } from '../../../core/environment/knobs'
import type { Knob } from '../../../core/environment/head-knobs'
import { useModel, useParts, useStudy } from '../../study/study-context'
import type { CourseStep } from '../../../session/learn/course'

/** Steps of a course at the most. */
const MOST = 12

/** A course: the same environment from easy to hard by one of its knobs, with the table carried over. */
export function CourseFields() {
  const parts = useParts()
  const { course, learn } = parts
  const document = useStudy((state) => state.document)
  const compiled = useModel((state) => state.compiled)
  const { knob: name, steps, at, failure, done } = useStore(course.store)
  const episodes = useStore(learn.store, (state) => state.choice.episodes)
  const knobs = knobsOf(document, compiled)
  const knob = knobs.find((each) => each.name === name)
  const change = (place: number, part: Partial<CourseStep>) =>
    course.set({ steps: steps.map((step, i) => (i === place ? { ...step, ...part } : step)) })
  return (
    <section className="space-y-2 border-t border-rule pt-2" aria-label="Course">
      <h3 className="font-semibold">Course</h3>
      {knobs.length === 0 ? (
        <p className="text-[13px] text-ink-soft">
          A course goes from easy to hard by a knob; this environment has none. Make one in Build.
        </p>
      ) : (
        <>
          <Select
            label="From easy to hard by the knob"
            value={name ?? ''}
            options={{ '': 'none', ...Object.fromEntries(knobs.map((each) => [each.name, each.name])) }}
            hint="Each step is learned from the table of the one before, matched by names. The knob stays where the last step puts it."
            onChange={(value) => {
              const chosen = knobs.find((each) => each.name === value)
              course.set({ knob: chosen?.name ?? null, steps: chosen ? firstSteps(chosen, episodes) : [] })
            }}
          />
          {knob && (
            <>
              <ol className="space-y-1">
                {steps.map((step, place) => (
                  <li
                    key={place}
                    aria-current={at === place ? 'step' : undefined}
                    className={`grid grid-cols-[1fr_1fr_1.75rem] items-end gap-2 border-l-4 pl-2 ${at === place ? 'border-brass-bright' : 'border-transparent'}`}
                  >
                    <NumberField
                      label={`${place + 1}. ${knob.name}`}
                      value={step.value}
                      min={knob.low}
                      max={knob.high}
                      onChange={(value) => change(place, { value })}
                    />
                    <NumberField
                      label="Episodes"
                      whole
                      value={step.episodes}
                      min={1}
                      max={1_000_000}
                      onChange={(value) => change(place, { episodes: value })}
                    />
                    <Button
                      look="quiet"
                      aria-label={`Remove step ${place + 1}`}
                      disabled={steps.length === 1 || at !== null}
                      onClick={() => course.set({ steps: steps.filter((_, i) => i !== place) })}
                    >
                      <Icon name="cross" className="size-4" />
                    </Button>
                    {done[place] && (
                      <p className="col-span-3 text-[13px] text-ink-soft" data-testid="step-done">
                        {done[place]}
                      </p>
                    )}
                  </li>
                ))}
              </ol>
              <div className="flex gap-2">
                <Button
                  disabled={steps.length >= MOST || at !== null}
                  onClick={() => course.set({ steps: [...steps, steps.at(-1)!] })}
                >
                  Add a step
                </Button>
                {at === null ? (
                  <Button look="ink" onClick={() => void course.run(parts)}>
                    Run the course
                  </Button>
                ) : (
                  <Button onClick={course.stop}>Stop</Button>
                )}
              </div>
              {at !== null && (
                <p role="status" className="text-[13px]">
                  Learning step {at + 1} of {steps.length}, with {knob.name} at{' '}
                  {formatNumber(steps[at].value, 4)} …
                </p>
              )}
              {failure && (
                <p role="alert" className="text-alert">
                  {failure}
                </p>
              )}
            </>
          )}
        </>
      )}
    </section>
  )
}

/** Three steps up to where the knob stands now, from its lower end. */
function firstSteps({ low, value, step }: Knob, episodes: number): CourseStep[] {
  const rounded = (to: number) => Number((low + Math.round((to - low) / step) * step).toFixed(9))
  return [low, rounded((low + value) / 2), value]
    .filter((each, i, all) => all.indexOf(each) === i)
    .map((each) => ({ value: each, episodes }))
}
