/** A document of any version, as it was parsed. */
type Raw = Readonly<Record<string, unknown>>

/**
 * What turns a document of a version into one of the next. Entries stay for good: a file of any age can be read.
 *
 * 1 -> 2: grids know more things and moves, tables keep their drawing, knobs belong to every kind. All of that is new,
 * so that what a version 1 document leaves out takes the values it always had.
 */
const MIGRATIONS: Readonly<Record<number, (document: Raw) => Raw>> = {
  1: (document) => ({ ...document, version: 2 }),
}

/** The document in today's version; one that is newer, or has no version, comes back as it is. */
export function migrateDocument(document: Raw): Raw {
  let current = document
  for (;;) {
    const { version } = current
    const step =
      typeof version === 'number' && Object.hasOwn(MIGRATIONS, version) ? MIGRATIONS[version] : undefined
    if (!step) return current
    current = step(current)
  }
}
