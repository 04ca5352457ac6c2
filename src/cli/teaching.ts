import { fileURLToPath } from 'node:url'
import type { Command } from 'commander'
import { parseExercise } from '../core/exercise/read-exercise'
import { readHandIn } from '../core/exercise/read-hand-in'
import { scoreHandIn } from '../core/exercise/score'
import { scoreLines } from '../core/exercise/score-words'
import { handedOut, lessonOfView, pageWith } from '../core/lesson/hand-out'
import { LESSON_FORMAT, type Lesson } from '../core/lesson/lesson-document'
import { checkScene, parseLesson } from '../core/lesson/read-lesson'
import { refuse } from '../core/problem'
import { environmentIn, inFile, readBytes, readTextFile, writeFile } from './files'
import type { Terminal } from './terminal'

/** The page without a lesson, as scripts/hand-out.mjs bundles it. */
const PAGE = fileURLToPath(new URL('../../.workers/hand-out.html', import.meta.url))

/** The commands for what goes to a class, and comes back from it. */
export function addTeachingCommands(program: Command, terminal: Terminal): void {
  program
    .command('hand-out')
    .description('a lesson or an environment as one page for students, which needs no server')
    .argument('<file>', 'a lesson (.json), or an environment in any of its forms')
    .option('-o, --out <file>', 'where the page is written; default: standard output')
    .exitOverride()
    .action((file: string, { out }: { out?: string }) => {
      const text = readTextFile(file)
      const lesson = inFile(file, () => handedOut(lessonIn(text, file)))
      const page = pageWith(readTextFile(PAGE), lesson)
      if (out === undefined || out === '-') return terminal.out(page)
      writeFile(out, page)
      terminal.err(`Written to ${out}: ${(page.length / 1e6).toFixed(1)} MB.\n`)
    })
  program
    .command('score')
    .description(
      'plays what was handed in for an exercise, and compares it with a random agent and the optimum',
    )
    .argument('<exercise>', 'an exercise (.json)')
    .argument('<hand-in>', 'a policy (.json, .csv), a learned table (.json) or a rule')
    .option('--hidden', 'with the hidden seed of the exercise')
    .option('--json', 'print one JSON object')
    .exitOverride()
    .action((file: string, handedIn: string, { hidden, json }: { hidden?: boolean; json?: boolean }) => {
      const text = readTextFile(file)
      const exercise = inFile(file, () => parseExercise(text))
      const { open, hidden: secret } = exercise.seeds
      if (hidden && secret === null)
        refuse('--hidden', 'The exercise has no hidden seed.', 'Give its "seeds" a number for "hidden".')
      const bytes = readBytes(handedIn)
      const score = inFile(handedIn, () => scoreHandIn(exercise, readHandIn(bytes), hidden ? secret! : open))
      terminal.out((json ? JSON.stringify(score) : scoreLines(score).join('\n')) + '\n')
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
function lessonIn(text: string, file: string): Lesson {
  if (isLesson(text)) return parseLesson(text)
  const document = environmentIn(text, file)
  return lessonOfView(document, checkScene({ stage: 'build' }, document))
}
