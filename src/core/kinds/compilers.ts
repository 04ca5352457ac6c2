import { PAGE_COMPILERS } from './page-compilers'
import { rulebookCompiler } from './rulebook/compiler'

/** What compiles each kind of environment, once; a kind without one has no type of what it is compiled to. */
export const COMPILERS = { ...PAGE_COMPILERS, rulebook: rulebookCompiler } as const
