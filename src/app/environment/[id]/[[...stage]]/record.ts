import { cache } from 'react'
import { database } from '../../../../server/db/database'
import { getEnvironment } from '../../../../server/repositories/environments'

/** The environment of an address, read once for the page and its layout. */
export const recordOf = cache(async (id: string) => getEnvironment(await database(), id))
