import { headers } from 'next/headers'
import { callerOf, type Caller } from '../server/access/caller'

/** Who asks for a page. */
export async function pageCaller(): Promise<Caller> {
  return callerOf({ headers: await headers() })
}
