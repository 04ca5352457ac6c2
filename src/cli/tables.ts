import { Option, type Command } from 'commander'
import type { TableNumbers } from '../core/formats/table-numbers'
import { TABLE_EXPORTS } from '../core/formats/tables'
import type { Model } from '../core/model/model'
import { writeFile } from './files'
import type { Terminal } from './terminal'

/** The tables that can be written, by what their files are called. */
const TABLES = Object.fromEntries(TABLE_EXPORTS.map((each) => [each.ending.slice(1), each]))

/** Flags for a command whose numbers can be written as a table. */
export function addTableFlags(command: Command): Command {
  return command
    .addOption(
      new Option('--to <table>', 'write this table in place of the answer').choices(Object.keys(TABLES)),
    )
    .option('-o, --out <file>', 'where --to writes it; default: standard output')
}

/** Writes the table that is asked for. @returns whether one is */
export function writeTable(
  { to, out }: { readonly to?: string; readonly out?: string },
  model: Model,
  found: TableNumbers,
  terminal: Terminal,
): boolean {
  if (to === undefined) return false
  const data = TABLES[to].write(model, found)
  if (out === undefined || out === '-') terminal.out(data)
  else writeFile(out, data)
  return true
}
