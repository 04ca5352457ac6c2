import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { handedOut } from '../../core/lesson/hand-out'
import { checkLesson } from '../../core/lesson/read-lesson'
import { refuse } from '../../core/problem'
import { answer, readJson } from './answers'

/** The page without a lesson, as scripts/hand-out.mjs bundles it. */
const PAGE = join(process.cwd(), '.workers', 'hand-out.html')
/** Where in it the lesson stands. */
const PLACE = '<!--lesson-->'

/** POST: a lesson. @returns a page that shows it to students without any server */
export function create(request: Request): Promise<Response> {
  return answer(request, async () => {
    const lesson = handedOut(checkLesson(await readJson(request)))
    if (!lesson.views.length) refuse('views', 'The lesson has no views yet.', 'Add one, then hand it out.')
    const page = await readFile(PAGE, 'utf8')
    // As a part of a page, where "<" could end the script that it stands in.
    const json = JSON.stringify(lesson).replaceAll('<', '\\u003c')
    const [before, after] = page.split(PLACE)
    return new Response(`${before}${json}${after}`, {
      headers: { 'content-type': 'text/html; charset=utf-8', 'cache-control': 'no-store' },
    })
  })
}
