import dynamic from 'next/dynamic'
import type { KindCover } from '../cover'

export const gridCover: KindCover = {
  what: 'cells to draw on',
  Dialog: dynamic(() => import('./NewGridDialog').then((module) => module.NewGridDialog)),
}
