// The command line: installs what is missing, then runs src/cli in this very process.
import { installPackages } from './install.mjs'

installPackages()
const { register } = await import('tsx/esm/api')
register()
await import('../src/cli/pawn.ts')
