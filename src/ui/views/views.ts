import dynamic from 'next/dynamic'
import { Waiting } from '../parts/Waiting'
import type { View } from '../../core/lesson/names'
import { BoardsPane } from './BoardsPane'
import { TextPane } from './TextPane'
import type { ViewEntry } from './view'

/** Loaded when they are first looked at. */
const TablePane = dynamic(() => import('./TablePane').then((module) => module.TablePane), {
  loading: Waiting,
})
const CurvePane = dynamic(() => import('./CurvePane').then((module) => module.CurvePane), {
  loading: Waiting,
})
const HorizonPane = dynamic(() => import('./HorizonPane').then((module) => module.HorizonPane), {
  loading: Waiting,
})
const LandscapePane = dynamic(() => import('./LandscapePane').then((module) => module.LandscapePane), {
  loading: Waiting,
})

const AgentsPane = dynamic(() => import('./AgentsPane').then((module) => module.AgentsPane), {
  loading: Waiting,
})

const ComparisonPane = dynamic(() => import('./ComparisonPane').then((module) => module.ComparisonPane), {
  loading: Waiting,
})

/** Every way to look at an environment, once. */
export const VIEWS: Readonly<Record<View, ViewEntry>> = {
  board: { title: 'Board', layered: true, needsModel: false, Pane: BoardsPane },
  table: { title: 'Table', layered: false, needsModel: true, Pane: TablePane },
  text: { title: 'Text', layered: false, needsModel: false, Pane: TextPane },
  curve: { title: 'Curve', layered: false, needsModel: true, Pane: CurvePane },
  landscape: { title: 'Landscape', layered: false, needsModel: true, Pane: LandscapePane },
  agents: { title: 'Agents', layered: false, needsModel: false, Pane: AgentsPane },
  comparison: { title: 'Comparison', layered: false, needsModel: false, Pane: ComparisonPane },
  horizon: { title: 'Steps to go', layered: true, needsModel: true, Pane: HorizonPane },
}
