import { COMPILERS } from './compilers'
import type { KindCompiler } from './kind'
import type { Compiled, EnvironmentDocument, Kind } from './kinds'

/** A compiler for those who do not know which it is; it is to be given documents of that kind only. */
export type AnyCompiler = KindCompiler<EnvironmentDocument, Compiled>

export function compilerOf({ kind }: { readonly kind: Kind }): AnyCompiler {
  return COMPILERS[kind] as unknown as AnyCompiler
}
