import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { handedOut, pageWith } from '../../core/lesson/hand-out'
import { checkLesson } from '../../core/lesson/read-lesson'
import { answer, readJson } from './answers'

/** The page without a lesson, as scripts/hand-out.mjs bundles it. */
const PAGE = join(process.cwd(), '.workers', 'hand-out.html')

/** POST: a lesson. @returns a page that shows it to students without any server */
export function create(request: Request): Promise<Response> {
  return answer(request, async () => {
    const lesson = handedOut(checkLesson(await readJson(request)))
    return new Response(pageWith(await readFile(PAGE, 'utf8'), lesson), {
      headers: { 'content-type': 'text/html; charset=utf-8', 'cache-control': 'no-store' },
    })
  })
}
