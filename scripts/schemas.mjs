// Writes the JSON Schemas of docs/schemas anew: `node scripts/schemas.mjs`. A test compares them with what is checked.
import { mkdirSync, writeFileSync } from 'node:fs'
import { tsImport } from 'tsx/esm/api'

const { jsonSchema, SCHEMA_NAMES } = await tsImport('../src/core/formats/json-schemas.ts', import.meta.url)
const folder = new URL('../docs/schemas/', import.meta.url)
mkdirSync(folder, { recursive: true })
for (const name of SCHEMA_NAMES)
  writeFileSync(new URL(`${name}.json`, folder), JSON.stringify(jsonSchema(name), null, 1) + '\n')
