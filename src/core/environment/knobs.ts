import { kindOf, type Compiled, type EnvironmentDocument } from '../kinds/kinds'
import { listNames, refuse } from '../problem'
import { setKnobs, type DocumentNumber, type Knob, type SetKnob } from './head-knobs'

/** Every number of a document that a knob can be given; none where the kind writes its knobs down itself. */
export function numbersOf(document: EnvironmentDocument): DocumentNumber<EnvironmentDocument>[] {
  return kindOf(document).numbers(document)
}

/** The knobs of the head of a document, those whose number is gone among them. */
export function headKnobsOf(document: EnvironmentDocument): SetKnob<EnvironmentDocument>[] {
  return setKnobs(document, () => numbersOf(document))
}

/** The knobs of an environment that can be turned now. @param compiled  the model, where it is there */
export function knobsOf(
  document: EnvironmentDocument,
  compiled: Compiled | null = null,
): Knob<EnvironmentDocument>[] {
  return kindOf(document).knobs(document, compiled)
}

/**
 * The document with a knob turned.
 * @throws ProblemError for a knob that is not there, and a value out of its range
 */
export function turnKnob(document: EnvironmentDocument, name: string, value: number): EnvironmentDocument {
  const place = `knob ${name}`
  const knobs = knobsOf(document)
  const knob = knobs.find((each) => each.name === name)
  if (!knob) {
    const gone = document.knobs.find((each) => each.name === name)
    if (gone)
      return refuse(
        place,
        `What it turned, ${gone.sets}, is no longer there.`,
        'Remove the knob, or let it turn another number.',
      )
    const names = listNames(
      knobs.map((each) => each.name),
      20,
    )
    return refuse(
      place,
      `There is no knob "${name}".`,
      names ? `The knobs are ${names}.` : `This ${document.kind} has no knobs. Give it one in Build.`,
    )
  }
  if (!(value >= knob.low && value <= knob.high))
    refuse(
      place,
      `The knob is set to ${value}; its range is ${knob.low} to ${knob.high}.`,
      'Choose a value in that range.',
    )
  return knob.turned(value)
}
