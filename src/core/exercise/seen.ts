import { compileEnvironment } from '../environment/compile'
import { kindOf, type Compiled } from '../kinds/kinds'
import type { Lying } from '../kinds/kind'
import type { Model } from '../model/model'
import { environmentOf, type Exercise } from './exercise'

/** States that an agent cannot tell apart, and what it can do there. */
export interface SeenState {
  readonly states: readonly string[]
  readonly actions: readonly string[]
}

/** What students are told of an environment: where an agent can be and what it can do, but not what comes of it. */
export interface Seen {
  readonly states: readonly SeenState[]
  /** Where they lie, where each lies in a place of its own. */
  readonly board: SeenBoard | null
  /** Its map or its rules on the first level; null where they are not shown. */
  readonly text: string | null
}

export interface SeenBoard {
  readonly columns: number
  readonly rows: number
  /** By the number of the state: its place, row by row from 0. */
  readonly places: readonly number[]
}

/** States that are listed at the most: for more of them nobody draws a policy. */
export const MOST_LISTED = 2_000

/** What students see of an exercise, over all levels. @returns null where there are too many states to list */
export function whatIsSeen(exercise: Exercise): Seen | null {
  const groups: {
    readonly states: Set<string>
    readonly actions: readonly string[]
    readonly place: number
  }[] = []
  const groupOf = new Map<string, number>()
  let board: Omit<SeenBoard, 'places'> | null = null
  for (const level of exercise.levels) {
    const document = environmentOf(exercise, level)
    const compiled = compileEnvironment(document)
    const { model } = compiled
    const lying = lyingOf(compiled, document.kind)
    board = lying && { columns: lying.columns, rows: lying.rows }
    /** Of this level, by observation. */
    const first = new Map<number, number>()
    for (let s = 0; s < model.states; s++) {
      if (model.ending[s]) continue
      const label = model.labels[s]
      const group = groupOf.get(label) ?? first.get(model.observation[s]) ?? groups.length
      if (group === groups.length)
        groups.push({ states: new Set(), actions: actionsAt(model, s), place: lying?.placeOfState[s] ?? -1 })
      groups[group].states.add(label)
      groupOf.set(label, group)
      first.set(model.observation[s], group)
      if (groupOf.size > MOST_LISTED) return null
    }
  }
  const places = groups.map(({ place }) => place)
  const apart = new Set(places).size === places.length && groups.every(({ states }) => states.size === 1)
  const document = environmentOf(exercise, exercise.levels[0])
  return {
    states: groups.map(({ states, actions }) => ({ states: [...states], actions })),
    board: exercise.shows !== 'names' && board && apart ? { ...board, places } : null,
    text: exercise.shows === 'rules' ? kindOf(document).text(document) || null : null,
  }
}

function lyingOf(compiled: Compiled, kind: Compiled['kind']): Lying | null {
  const { lying } = kindOf({ kind }) as { lying?: (compiled: Compiled) => Lying }
  return lying?.(compiled) ?? null
}

function actionsAt(model: Model, state: number): string[] {
  return Array.from(
    model.rowAction.subarray(model.rowStart[state], model.rowStart[state + 1]),
    (action) => model.actions[action],
  )
}
