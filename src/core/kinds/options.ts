import type { DocumentOption } from '../environment/document-option'
import { gridOptions } from './grid/options'
import type { EnvironmentDocument, EnvironmentOf, Kind } from './kinds'
import { rulebookOptions } from './rulebook/options'

/** In what documents of each kind differ that is no number: apart from the kinds, as only comparisons ask. */
const OPTIONS = {
  grid: gridOptions,
  bandit: () => [],
  rulebook: rulebookOptions,
  table: () => [],
} as const satisfies {
  readonly [K in Kind]: (document: EnvironmentOf<K>) => DocumentOption<EnvironmentOf<K>>[]
}

/** What an environment leaves open besides its numbers: how impossible actions are treated, what the agent sees. */
export function optionsOf(document: EnvironmentDocument): DocumentOption<EnvironmentDocument>[] {
  const list = OPTIONS[document.kind] as unknown as (
    each: EnvironmentDocument,
  ) => DocumentOption<EnvironmentDocument>[]
  return list(document)
}
