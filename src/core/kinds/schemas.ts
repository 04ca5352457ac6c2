import type { ObjectSchema } from 'joi'
import { banditSchema } from './bandit/schema'
import { gridSchema } from './grid/schema'
import type { Kind } from './kinds'
import { rulebookSchema } from './rulebook/schema'
import { tableSchema } from './table/schema'

/**
 * What the part of a document may be that stands under its kind's name: apart from the kinds, as pages that read no
 * files need no checks.
 */
export const SCHEMAS = {
  grid: gridSchema,
  bandit: banditSchema,
  rulebook: rulebookSchema,
  table: tableSchema,
} as const satisfies Readonly<Record<Kind, ObjectSchema>>
