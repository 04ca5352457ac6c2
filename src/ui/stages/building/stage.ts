import type { StageView } from '../stage'
import { planOverlay } from '../plan/overlay'
import { BuildBar } from './BuildBar'
import { BuildPanel } from './BuildPanel'

export const buildStage: StageView = {
  title: 'Build',
  Panel: BuildPanel,
  Strip: null,
  Bar: BuildBar,
  edits: () => 'environment',
  writes: true,
  sources: ({ plan }) => [plan.store],
  overlay: (parts, model, covered) =>
    parts.study.getState().planned
      ? planOverlay(parts.plan, parts.plan.store.getState().held, model, covered)
      : null,
  views: () => ['board', 'table', 'text'],
  keys: [],
  numbers: () => null,
}
