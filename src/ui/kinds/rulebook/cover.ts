import dynamic from 'next/dynamic'
import type { KindCover } from '../cover'

export const rulebookCover: KindCover = {
  what: 'rules to write',
  Dialog: dynamic(() => import('./NewRulebookDialog').then((module) => module.NewRulebookDialog), {
    // The page stays as it is until the dialog opens over it.
    loading: () => null,
  }),
}
