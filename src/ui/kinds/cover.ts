import type { ComponentType } from 'react'

/** How one of a kind is begun on the shelf. */
export interface KindCover {
  /** What one begins with, in a few words. */
  readonly what: string
  /** Asks what a new one is to be; null where one is made at once. */
  readonly Dialog: ComponentType<{ open: boolean; onClose(): void; onMade(id: string): void }> | null
}
