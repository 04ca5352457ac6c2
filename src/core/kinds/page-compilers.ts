import { banditCompiler } from './bandit/compiler'
import { gridCompiler } from './grid/compiler'
import { tableCompiler } from './table/compiler'

/** The kinds of which a page compiles small ones itself, at once; the others are compiled in workers alone. */
export const PAGE_COMPILERS = { grid: gridCompiler, bandit: banditCompiler, table: tableCompiler } as const
