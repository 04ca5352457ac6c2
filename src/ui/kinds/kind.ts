import type { ComponentType } from 'react'
import type { CompiledOf, EnvironmentOf, Kind } from '../../core/kinds/kinds'
import type { Layer } from '../../core/lesson/names'
import type { ShownOverlay } from '../board/overlay'

export interface PaneProps<K extends Kind> {
  readonly document: EnvironmentOf<K>
  readonly shown: ShownOverlay
  /** What strokes on the board change. */
  readonly edits: 'environment' | 'policy' | null
  /** What a screen reader calls the board, where there are several. */
  readonly name?: string
  /** The model; null while there is none, for kinds that can be drawn without. */
  readonly compiled: CompiledOf<K> | null
}

/** What people see of a kind in its study. */
export interface KindView<K extends Kind> {
  /** The board. */
  readonly Pane: ComponentType<PaneProps<K>>
  /** Whether the board can be drawn without a model. */
  readonly drawsWithoutModel: boolean
  /** The layers that its board has no place for. */
  readonly withoutLayers: readonly Layer[]
  /** The layers that are on at first; the usual ones when left out. */
  readonly firstLayers?: readonly Layer[]
  /** Its controls in Build. */
  readonly Panel: ComponentType<{ readonly document: EnvironmentOf<K> }>
  /** Whether that panel says how large the model is, and where knobs are made. */
  readonly panelHasSize: boolean
  /** What is said of the size besides; empty for nothing. */
  sizeNote(document: EnvironmentOf<K>, compiled: CompiledOf<K>): string
  /** Where it is written in Build, beside the board; null where it is drawn. */
  readonly desk: {
    readonly Desk: ComponentType<{ readonly document: EnvironmentOf<K> }>
    /** The columns of a wide page: desk, board, side column. */
    readonly columns: string
    /** Where the knobs stand in Build: above the panel, or within it. */
    readonly knobsInPanel: boolean
    /** Said in place of the board while there is none. */
    readonly waiting: string
  } | null
  /** How to draw on its board in Build; empty where nothing can be. */
  readonly buildHint: string
  /** How a policy is drawn on its board. */
  readonly policyHint: string
  /** Questions that What if has for it. */
  readonly Questions: ComponentType<{
    readonly document: EnvironmentOf<K>
    onFail(message: string): void
  }> | null
  /** Keys in Build, for the list of keys. */
  readonly keys: readonly (readonly [keys: string, what: string])[]
}
