import type { ComponentType } from 'react'
import type { EnvironmentOf, Kind } from '../../core/kinds/kinds'
import type { SvgPen } from '../board/svg-pen'

/** What the shelf shows of a kind. */
export interface KindCover<K extends Kind> {
  /** What one begins with, in a few words. */
  readonly what: string
  /** Asks what a new one is to be; null where one is made at once. */
  readonly Dialog: ComponentType<{ open: boolean; onClose(): void; onMade(id: string): void }> | null
  /** Draws a small true picture. @returns its size and what it shows */
  draw(
    pen: SvgPen,
    document: EnvironmentOf<K>,
  ): { readonly width: number; readonly height: number; readonly title: string }
}
