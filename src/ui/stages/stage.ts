import type { ComponentType } from 'react'
import type { TableNumbers } from '../../core/formats/table-numbers'
import type { Model } from '../../core/model/model'
import type { View } from '../../core/lesson/names'
import type { ShownOverlay } from '../board/overlay'
import type { LastChange } from '../board/StateTable'
import type { LayerSource } from '../layers/layer'
import type { StudyParts } from '../study/study-context'
import type { StateSource } from '../study/use-states'

/** What a stage lays over the board, and what its layers take theirs from. */
export interface StageOverlay {
  /** Without any of the layers that change it. */
  readonly shown: ShownOverlay
  /** Null where there is nothing for layers to show. */
  readonly source: LayerSource | null
}

/** A key of a stage. */
export interface StageKey {
  /** As they are listed: `. and ,`. */
  readonly keys: string
  readonly what: string
  /** @returns whether the key, in small letters, was one of them and did something */
  press(parts: StudyParts, key: string): boolean
}

/** What of a stage can be undone. */
export interface StageHistory {
  readonly canUndo: boolean
  readonly canRedo: boolean
  undo(): void
  redo(): void
}

/** A stage: what stands in the side column and in the strip, and what it does with the board. */
export interface StageView {
  readonly title: string
  readonly Panel: ComponentType
  /** Beside its name in the head, where there is something to be seen in it; left out where there never is. */
  readonly Mark?: ComponentType
  /** Null where there is no time to go through. */
  readonly Strip: ComponentType | null
  /** In place of the choice of layers; null for that choice. */
  readonly Bar: ComponentType | null
  /** What strokes on the board change now. */
  edits(parts: StudyParts): 'environment' | 'policy' | null
  /** Whether the document is written here: then the desk of its kind stands beside the board. */
  readonly writes: boolean
  /** What its overlay and views depend on, besides the study and the model. */
  sources(parts: StudyParts): readonly StateSource[]
  /** Several boards beside each other; one when left out. */
  boards?(parts: StudyParts): readonly StageBoard[]
  /** @param board  which of several boards, from 0. @returns null where there is nothing to show */
  overlay(parts: StudyParts, model: Model, covered: boolean, board: number): StageOverlay | null
  views(parts: StudyParts): readonly View[]
  readonly keys: readonly StageKey[]
  /** Its own changes, which are undone while it is shown; left out where those of the environment are. */
  history?(parts: StudyParts): StageHistory
  /** What the last step changed; left out where there are no steps. */
  lastChange?(parts: StudyParts): LastChange | null
  /** The numbers that can be taken away as tables; null where there are none yet. */
  numbers(parts: StudyParts): Partial<TableNumbers> | null
}

/** One of several boards. */
export interface StageBoard {
  /** The name under which its picture is taken away. */
  readonly slot: string
  readonly label: string
  readonly Caption: ComponentType
}
