import type { Compiled } from '../../core/kinds/kinds'

/** Where the needles of a board point: one place for each action, or for each value of one part of the actions. */
export interface Dial {
  readonly places: readonly string[]
  /** [actions] the place at which each action points */
  readonly placeOf: readonly number[]
}

/** A place of its own for each action. */
export function plainDial(actions: readonly string[]): Dial {
  return { places: actions, placeOf: actions.map((_, a) => a) }
}

/** The parts of which a dial can show one: none where no action has several. */
export function dialParts(compiled: Compiled): string[] {
  if (compiled.kind !== 'rulebook') return []
  const several = compiled.facts.actionParts.filter((parts) => parts.length > 1)
  return [...new Set(several.flatMap((parts) => parts.map(({ name }) => name)))]
}

/**
 * Actions that are alike in one part share a place. An action without that part has the place of its first one, where it has
 * several.
 * @param wanted  the part; the first one where it is left out, or is no part
 */
export function dialOf(compiled: Compiled, wanted: string | null = null): Dial {
  const { actions } = compiled.model
  const parts = dialParts(compiled)
  if (compiled.kind !== 'rulebook' || !parts.length) return plainDial(actions)
  const shown = wanted !== null && parts.includes(wanted) ? wanted : parts[0]
  const places: string[] = []
  const placeOf = compiled.facts.actionParts.map((all, a) => {
    const part = all.find(({ name }) => name === shown) ?? (all.length > 1 ? all[0] : undefined)
    const name = part ? `${part.name} ${part.text}` : actions[a]
    const known = places.indexOf(name)
    return known >= 0 ? known : places.push(name) - 1
  })
  return { places, placeOf }
}

/** [places] chances of actions added up */
export function chancesOnDial({ places, placeOf }: Dial, chances: ArrayLike<number>): ArrayLike<number> {
  if (places.length === chances.length) return chances
  const sums = new Float64Array(places.length)
  placeOf.forEach((place, a) => (sums[place] += chances[a]))
  return sums
}

/** [places] the best of the values of actions; NaN where none is possible */
export function bestOnDial({ places, placeOf }: Dial, values: ArrayLike<number>): ArrayLike<number> {
  if (places.length === values.length) return values
  const best = new Float64Array(places.length).fill(NaN)
  placeOf.forEach((place, a) => {
    if (!(values[a] <= best[place]) && !Number.isNaN(values[a])) best[place] = values[a]
  })
  return best
}
