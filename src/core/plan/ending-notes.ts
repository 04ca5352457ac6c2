import { formatCount } from '../formats/number'
import type { Model } from '../model/model'
import { listNames } from '../problem'
import { stepsToEnding } from './reach'

/** The states that episodes start in, each once, and the fewest steps from there to an ending: -1 where there is no way. */
export interface StartWays {
  readonly starts: readonly number[]
  readonly steps: readonly number[]
}

export function startWays(model: Model): StartWays {
  const steps = stepsToEnding(model)
  const starts = [...new Set(model.startState)]
  return { starts, steps: starts.map((s) => steps[s]) }
}

/**
 * What is to be known of endings before anything is planned or learned: that none can be reached, or that the cap is
 * shorter than the shortest way. Each a sentence for people.
 * @param cap  steps after which an episode is cut off; infinity for no cap
 */
export function endingNotes(
  { labels }: Pick<Model, 'labels'>,
  { starts, steps }: StartWays,
  cap: number,
): string[] {
  const names = (states: readonly number[]) => listNames(states.map((s) => labels[s]))
  const lost = starts.filter((_, i) => steps[i] < 0)
  if (lost.length === starts.length)
    return [
      `No ending can be reached from the start: every episode goes on ${
        Number.isFinite(cap) ? `until it is cut off, after ${formatCount(cap)} steps` : 'for ever'
      }.`,
    ]
  const notes: string[] = []
  if (lost.length)
    notes.push(
      `No ending can be reached from ${names(lost)}: episodes that start there go on until they are cut off.`,
    )
  const late = starts.filter((_, i) => steps[i] > cap)
  if (late.length)
    notes.push(
      `The step limit of ${formatCount(cap)} is shorter than the shortest way to an ending${
        late.length === starts.length ? '' : ` from ${names(late)}`
      }, ${formatCount(Math.min(...steps.filter((step) => step > cap)))} steps: such an episode never ends by itself. Raise the step limit.`,
    )
  return notes
}
