import dynamic from 'next/dynamic'
import { Waiting } from '../../parts/Waiting'
import type { StageView } from '../stage'

export const compareStage: StageView = {
  title: 'Compare',
  // Loaded when the stage is first shown.
  Panel: dynamic(() => import('./ComparePanel').then((module) => module.ComparePanel), { loading: Waiting }),
  Strip: null,
  Bar: null,
  edits: () => null,
  writes: false,
  sources: ({ compare }) => [compare.store],
  overlay: () => null,
  views: () => ['comparison'],
  keys: [],
  history({ compare }) {
    const { past, future } = compare.store.getState()
    return { canUndo: past.length > 0, canRedo: future.length > 0, undo: compare.undo, redo: compare.redo }
  },
  numbers: () => null,
}
