// Writes the description of the protocol for programs anew: `node scripts/protocol.mjs`. A test compares it with the program.
import { writeFileSync } from 'node:fs'
import { tsImport } from 'tsx/esm/api'

const { openApi } = await tsImport('../src/server/play/openapi.ts', import.meta.url)
const { protocolReference } = await tsImport('../src/server/play/reference.ts', import.meta.url)
const docs = new URL('../docs/', import.meta.url)
writeFileSync(new URL('protocol.openapi.json', docs), JSON.stringify(openApi(), null, 1) + '\n')
writeFileSync(new URL('protocol.md', docs), protocolReference())
