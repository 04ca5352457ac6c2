import type { ComponentType } from 'react'
import type { Compiled } from '../../core/kinds/kinds'

/** A way to look at an environment. */
export interface ViewEntry {
  readonly title: string
  /** Whether layers are chosen for it. */
  readonly layered: boolean
  /** `compiled` is null where there is no model: then only views that need none are shown. */
  readonly Pane: ComponentType<{ readonly compiled: Compiled | null }>
  readonly needsModel: boolean
}
