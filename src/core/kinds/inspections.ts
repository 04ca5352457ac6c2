import { banditInspection } from './bandit/inspection'
import { gridInspection } from './grid/inspection'
import type { KindInspection } from './inspection'
import type { Compiled, CompiledOf, EnvironmentDocument, EnvironmentOf, Kind } from './kinds'
import { rulebookInspection } from './rulebook/inspection'
import { tableInspection } from './table/inspection'

/** What each kind tells to who looks for faults: apart from the kinds, as few pages look for them. */
const INSPECTIONS = {
  grid: gridInspection,
  bandit: banditInspection,
  rulebook: rulebookInspection,
  table: tableInspection,
} as const satisfies { readonly [K in Kind]: KindInspection<EnvironmentOf<K>, CompiledOf<K>> }

/** For a document of that kind only, and what it was compiled to. */
export function inspectionOf({
  kind,
}: {
  readonly kind: Kind
}): KindInspection<EnvironmentDocument, Compiled> {
  return INSPECTIONS[kind] as unknown as KindInspection<EnvironmentDocument, Compiled>
}
