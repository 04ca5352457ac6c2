import { checkScene } from '../../../../core/lesson/read-lesson'
import { ProblemError } from '../../../../core/problem'
import type { LinkedScene } from '../../../../session/lesson/link'
import type { EnvironmentRecord } from '../../../../server/contract/environments'
import { database } from '../../../../server/db/database'
import { getLink } from '../../../../server/repositories/links'

/** What a link of an environment stands for, or why it cannot be shown. */
export async function linkedScene({ id, document }: EnvironmentRecord, link: string): Promise<LinkedScene> {
  try {
    const found = await getLink(await database(), id, link)
    return found === undefined
      ? { problem: 'The link names a view that is not known here. Ask the sender for it again.' }
      : { scene: checkScene(found, document) }
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error
    return { problem: `The view of the link cannot be shown: ${error.message}` }
  }
}
