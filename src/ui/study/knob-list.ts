import type { Compiled, EnvironmentDocument } from '../../core/environment/document'
import { knobsOf } from '../../core/environment/numbers'

/** A knob as the panel shows it, whichever kind of environment it belongs to. */
export interface PanelKnob {
  readonly name: string
  /** What it turns, in words. */
  readonly title: string
  readonly value: number
  /** What it is when it is left alone; null where the document knows only one value. */
  readonly standard: number | null
  readonly low: number
  readonly high: number
  readonly step: number
  /** The document with the knob turned; null puts it back to the standard. */
  turned(value: number | null): EnvironmentDocument
}

/** The knobs of an environment that can be turned now. */
export function panelKnobs(document: EnvironmentDocument, compiled: Compiled | null): PanelKnob[] {
  if (document.kind !== 'rulebook')
    return knobsOf(document).flatMap((knob): PanelKnob[] => {
      const { number } = knob
      if (!number) return []
      return [
        {
          ...knob,
          title: number.title,
          value: number.value,
          standard: null,
          turned: (value) => number.put(value ?? number.value),
        },
      ]
    })
  const { rulebook } = document
  return (compiled?.facts?.knobs ?? []).map((knob) => ({
    ...knob,
    title: knob.name,
    value: Object.hasOwn(rulebook.knobs, knob.name) ? rulebook.knobs[knob.name] : knob.standard,
    turned(value) {
      const others = Object.fromEntries(Object.entries(rulebook.knobs).filter(([name]) => name !== knob.name))
      const knobs = value === null ? others : { ...others, [knob.name]: value }
      return { ...document, rulebook: { ...rulebook, knobs } }
    },
  }))
}
