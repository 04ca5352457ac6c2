import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { ProblemError } from '../../core/problem'
import type { Shown } from '../../server/contract/questions'
import { letFollow, showFollowed } from '../api/following'
import { UnavailableError } from '../api/send'
import type { Study } from '../study/study'
import { takeScene } from './take-scene'

/** How often it is looked whether the screen has changed, in milliseconds. */
const LOOKING = 150

/** What the server is told of a screen; tests bring their own. */
export interface FollowServer {
  letFollow: typeof letFollow
  showFollowed: typeof showFollowed
}

/**
 * Tells a class what is on the screen of a study, as it changes.
 * @param words  what stands beside it and over it, asked for whenever it is looked whether something has changed
 * @param fail  told what was refused, after which nothing more is told
 * @returns ends it
 */
export function tellScreen(
  parts: Study,
  classId: string,
  words: () => Pick<Shown, 'title' | 'text' | 'covers'>,
  fail: (error: ProblemError) => void,
  server: FollowServer = { letFollow, showFollowed },
): () => void {
  let told = ''
  let document: EnvironmentDocument | null = null
  let name = ''
  let ended = false
  const tell = async () => {
    const now = parts.study.getState().document
    const shown: Shown = { ...words(), scene: takeScene(parts) }
    const text = JSON.stringify(shown)
    if (now === document && text === told) return
    if (now === document) await server.showFollowed(classId, name, shown)
    else name = await server.letFollow(classId, now, shown)
    document = now
    told = text
  }
  const look = async () => {
    try {
      await tell()
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error
      // A server that is away is tried again; where another page is followed by now, that one tells from then on.
      if (!(error instanceof UnavailableError)) {
        ended = true
        fail(error)
      }
    }
    if (!ended) timer = setTimeout(() => void look(), LOOKING)
  }
  let timer = setTimeout(() => void look(), 0)
  return () => {
    ended = true
    clearTimeout(timer)
  }
}
