import dynamic from 'next/dynamic'
import type { KindCover } from '../cover'

export const gridCover: KindCover = {
  what: 'cells to draw on',
  Dialog: dynamic(() => import('./NewGridDialog').then((module) => module.NewGridDialog), {
    // The page stays as it is until the dialog opens over it.
    loading: () => null,
  }),
}
