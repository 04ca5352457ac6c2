import { and, count, desc, getTableColumns, inArray, isNull, sql, type SQL } from 'drizzle-orm'
import { kindOf, type Kind } from '../../core/kinds/kinds'
import { KIND_NAMES } from '../../core/kinds/outlines'
import { COUNTED_OUTCOMES, PICTURED_LENGTH } from '../../core/limits'
import type { EnvironmentSummary } from '../contract/environments'
import { environments, type Database } from '../db/schema'
import { timeText, tryReadDocument } from './stored'

/** Which environments of the shelf are wanted. */
export interface Wanted {
  /** Part of a name, in letters of any case; all when left out. */
  readonly find?: string
  /** How many at the most; all when left out. */
  readonly limit?: number
}

/** The shelf, the environment changed last in front. */
export async function listEnvironments(
  db: Database,
  { find = '', limit = -1 }: Wanted = {},
): Promise<EnvironmentSummary[]> {
  const { document, ...columns } = getTableColumns(environments)
  const rows = await db
    .select({ ...columns, length: sql<number>`octet_length(${document})` })
    .from(environments)
    .where(and(isNull(environments.deletedAt), named(find)))
    .orderBy(desc(environments.updatedAt), environments.name)
    .limit(limit)
  const heads = await headsOf(db, rows)
  const bases = new Map(
    (
      await db
        .select({ id: environments.id, name: environments.name })
        .from(environments)
        .where(
          and(
            isNull(environments.deletedAt),
            inArray(environments.id, [...new Set(rows.flatMap(({ baseId }) => baseId ?? []))]),
          ),
        )
    ).map((base) => [base.id, base]),
  )
  return rows.map((row, i) => summaryOf(row, heads[i], bases.get(row.baseId ?? '') ?? null))
}

/** How many environments are on the shelf. */
export async function countShelf(db: Database, find = ''): Promise<number> {
  const [row] = await db
    .select({ count: count() })
    .from(environments)
    .where(and(isNull(environments.deletedAt), named(find)))
  return row.count
}

/** Whether a part of a name is in it; SQLite knows the case of Latin letters without marks alone. */
function named(find: string): SQL | undefined {
  return find ? sql`instr(lower(${environments.name}), lower(${find})) > 0` : undefined
}

type ListedRow = Omit<typeof environments.$inferSelect, 'document'> & { readonly length: number }

/** What of a document the shelf shows. */
interface DocumentHead {
  readonly note: string
  readonly uncounted: boolean
  readonly damage: string | null
}

/** What was read before, by id, revision and length: a document is not read again for every look at the shelf. */
const known = new Map<string, DocumentHead>()
/** Heads that are remembered. */
const REMEMBERED = 5000
/** A large document is not even read: the shelf shows nothing of it. */
const UNREAD: DocumentHead = { note: '', uncounted: true, damage: null }

async function headsOf(db: Database, rows: readonly ListedRow[]): Promise<DocumentHead[]> {
  const keyOf = ({ id, revision, length }: ListedRow) => `${id} ${revision} ${length}`
  const missing = rows.filter((row) => row.length <= PICTURED_LENGTH && !known.has(keyOf(row)))
  if (missing.length) {
    if (known.size > REMEMBERED) known.clear()
    const found = await db
      .select({ id: environments.id, document: environments.document })
      .from(environments)
      .where(
        inArray(
          environments.id,
          missing.map(({ id }) => id),
        ),
      )
    const texts = new Map(found.map(({ id, document }) => [id, document]))
    for (const row of missing) known.set(keyOf(row), headOf(texts.get(row.id) ?? ''))
  }
  return rows.map((row) => (row.length <= PICTURED_LENGTH ? (known.get(keyOf(row)) ?? UNREAD) : UNREAD))
}

function headOf(text: string): DocumentHead {
  const read = tryReadDocument(text)
  if ('damage' in read) return { note: '', uncounted: true, damage: read.damage }
  const { document } = read
  const uncounted = kindOf(document).roughOutcomes(document) > COUNTED_OUTCOMES
  return { note: document.note, uncounted, damage: null }
}

function summaryOf(
  row: ListedRow,
  { note, uncounted, damage }: DocumentHead,
  base: EnvironmentSummary['base'],
): EnvironmentSummary {
  const kind = kindNamed(row.kind)
  return {
    id: row.id,
    name: String(row.name),
    kind: kind ?? 'grid',
    revision: row.revision,
    states: row.states,
    actions: row.actions,
    updatedAt: timeText(row.updatedAt),
    base,
    counting: !row.counted,
    uncounted,
    pictured: row.length <= PICTURED_LENGTH && damage === null,
    note,
    damage: kind ? damage : `There is no kind of environment called “${row.kind}” in this version.`,
  }
}

function kindNamed(name: string): Kind | undefined {
  return KIND_NAMES.find((kind) => kind === name)
}
