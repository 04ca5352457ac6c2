import type { FieldRules } from '../environment/tree'
import type { COMPILERS } from './compilers'
import { banditKind } from './bandit/kind'
import { gridKind } from './grid/kind'
import type { EnvironmentKind } from './kind'
import { rulebookKind } from './rulebook/kind'
import { tableKind } from './table/kind'

/** Each kind of environment, once. */
export const KINDS = { grid: gridKind, bandit: banditKind, rulebook: rulebookKind, table: tableKind } as const

export type Kind = keyof typeof KINDS
export type EnvironmentOf<K extends Kind> = ReturnType<(typeof KINDS)[K]['blank']>
export type CompiledOf<K extends Kind> = ReturnType<ReturnType<(typeof COMPILERS)[K]['compile']>['finish']>

/** An environment of any kind, told apart by `kind`. */
export type EnvironmentDocument = { [K in Kind]: EnvironmentOf<K> }[Kind]
/** A document turned into numbers, told apart by `kind`. */
export type Compiled = { [K in Kind]: CompiledOf<K> }[Kind]

/** A kind for those who do not know which it is. */
export type AnyKind = Omit<EnvironmentKind<Kind, object, Compiled, EnvironmentDocument>, 'fields'> & {
  readonly fields: FieldRules
}

/** The kind of a document; it is to be asked about that document only, and about what it was compiled to. */
export function kindOf({ kind }: { readonly kind: Kind }): AnyKind {
  return KINDS[kind] as unknown as AnyKind
}

/** The part of a document that is of its kind. */
export function partOf(document: EnvironmentDocument): object {
  return (document as unknown as Readonly<Record<Kind, object>>)[document.kind]
}
