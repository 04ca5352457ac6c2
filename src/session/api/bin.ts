import type { BinKind } from '../../server/contract/bin'
import { send } from './send'

const ROOT = '/api/bin'

export async function takeFromBin(kind: BinKind, id: string): Promise<void> {
  await send(`${ROOT}/${kind}/${id}`, { method: 'POST' })
}

/** Deletes something for good. */
export async function emptyFromBin(kind: BinKind, id: string): Promise<void> {
  await send(`${ROOT}/${kind}/${id}`, { method: 'DELETE' })
}
