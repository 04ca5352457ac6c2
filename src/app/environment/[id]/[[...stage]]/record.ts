import { cache } from 'react'
import { database } from '../../../../server/db/database'
import { ProblemError } from '../../../../core/problem'
import { getEnvironment } from '../../../../server/repositories/environments'

/** The environment of an address, or why it cannot be read; read once for the page and its layout. */
export const recordOf = cache(async (id: string) => {
  try {
    return await getEnvironment(await database(), id)
  } catch (error) {
    if (error instanceof ProblemError) return error
    throw error
  }
})
