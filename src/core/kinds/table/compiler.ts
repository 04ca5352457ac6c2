import { atOnce, PLAIN_COMPILED, type KindCompiler } from '../kind'
import { compileTable } from './document'
import type { CompiledTable, TableEnvironment } from './kind'

export const tableCompiler = {
  compile: ({ table, cap }) =>
    atOnce((): CompiledTable => ({ ...PLAIN_COMPILED, kind: 'table', model: compileTable(table, cap) })),
} as const satisfies KindCompiler<TableEnvironment, CompiledTable>
