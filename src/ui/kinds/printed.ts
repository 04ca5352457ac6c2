import type { ComponentType } from 'react'
import type { EnvironmentOf, Kind } from '../../core/kinds/kinds'
import { PrintedDependence } from './rulebook/PrintedDependence'

/** What the printed report of a kind shows besides its views; null where that is nothing. */
export const PRINTED: {
  readonly [K in Kind]: ComponentType<{ document: EnvironmentOf<K> }> | null
} = { grid: null, bandit: null, rulebook: PrintedDependence, table: null }
