import { fileURLToPath } from 'node:url'
import type { Command } from 'commander'
import { lessonOfView, pageWith } from '../core/lesson/hand-out'
import { LESSON_FORMAT, type Lesson } from '../core/lesson/lesson-document'
import { checkScene, parseLesson } from '../core/lesson/read-lesson'
import { environmentIn, inFile, readTextFile, writeFile } from './files'
import type { Terminal } from './terminal'

/** The page without a lesson, as scripts/hand-out.mjs bundles it. */
const PAGE = fileURLToPath(new URL('../../.workers/hand-out.html', import.meta.url))

/** The commands for what goes to a class. */
export function addTeachingCommands(program: Command, terminal: Terminal): void {
  program
    .command('hand-out')
    .description('a lesson or an environment as one page for students, which needs no server')
    .argument('<file>', 'a lesson (.json), or an environment in any of its forms')
    .option('-o, --out <file>', 'where the page is written; default: standard output')
    .exitOverride()
    .action((file: string, { out }: { out?: string }) => {
      const lesson = lessonIn(file)
      const page = inFile(file, () => pageWith(readTextFile(PAGE), lesson))
      if (out === undefined || out === '-') return terminal.out(page)
      writeFile(out, page)
      terminal.err(`Written to ${out}: ${(page.length / 1e6).toFixed(1)} MB.\n`)
    })
}

function isLesson(text: string): boolean {
  try {
    return (JSON.parse(text) as { format?: unknown } | null)?.format === LESSON_FORMAT
  } catch {
    return false
  }
}

/** A lesson from its file, or one view of an environment. */
function lessonIn(file: string): Lesson {
  const text = readTextFile(file)
  return inFile(file, () => {
    if (isLesson(text)) return parseLesson(text)
    const document = environmentIn(text, file)
    return lessonOfView(document, checkScene({ stage: 'build' }, document))
  })
}
