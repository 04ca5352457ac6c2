import { compileEnvironment } from '../environment/compile'
import type { EnvironmentDocument } from '../kinds/kinds'
import { ProblemError } from '../problem'
import { documentFor, type Contestant } from './contestant'
import { followedPolicy } from './followed'
import type { LearningTask, RunAsk } from './learning-runs'

/** Runs of one task, from `from` up to, not including, `to`: what one worker does in one go. */
export interface RunChunk {
  readonly task: number
  readonly from: number
  readonly to: number
}

/** A contestant whose runs are to be played. */
export interface PlannedTask {
  readonly key: string
  readonly task: LearningTask
}

const texts = new WeakMap<EnvironmentDocument, string>()

/** What of an environment its runs depend on: neither its words nor the settings that learning begins with. */
function environmentText(document: EnvironmentDocument): string {
  const known = texts.get(document)
  if (known !== undefined) return known
  const { name: _name, note: _note, learning: _learning, policy: _policy, ...environment } = document
  const text = JSON.stringify(environment)
  texts.set(document, text)
  return text
}

/** What makes the runs of two contestants the same: the environment as it is for them, and the agent. */
export function runKey(
  document: EnvironmentDocument,
  { choice, follows }: Pick<Contestant, 'choice' | 'follows'>,
): string {
  // The number of the run does not count.
  const { run: _run, source: _source, ...agent } = choice
  const { seed, episodes, cap, discount, stop } = choice
  return hashOf(
    environmentText(document) +
      JSON.stringify(follows ? [follows, { seed, episodes, cap, discount, stop }] : agent),
  )
}

/** 64 bits of a text: FNV-1a (Fowler, Noll & Vo 1991), twice with different beginnings. */
function hashOf(text: string): string {
  let low = 0x811c9dc5
  let high = 0x01234567
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i)
    low = Math.imul(low ^ code, 0x01000193)
    high = Math.imul(high ^ code, 0x01000193) ^ (low >>> 13)
  }
  return [high, low].map((word) => (word >>> 0).toString(16).padStart(8, '0')).join('')
}

const problems = new WeakMap<EnvironmentDocument, Map<string, string | null>>()

/** Why a contestant cannot be run, in words; null when it can. */
export function contestantProblem(document: EnvironmentDocument, contestant: Contestant): string | null {
  const { follows, choice } = contestant
  try {
    const acts = documentFor(document, contestant)
    // What learns is found out about when it is run; a policy is looked up at once.
    if (!follows || follows.kind === 'random' || follows.kind === 'optimum') return null
    const known = problems.get(acts) ?? new Map<string, string | null>()
    problems.set(acts, known)
    const key = JSON.stringify(follows)
    if (!known.has(key))
      known.set(
        key,
        inWords(() => followedPolicy(compileEnvironment(acts), follows, choice.discount)),
      )
    return known.get(key)!
  } catch (error) {
    return problemText(error)
  }
}

function inWords(run: () => unknown): string | null {
  try {
    run()
    return null
  } catch (error) {
    return problemText(error)
  }
}

function problemText(error: unknown): string {
  if (!(error instanceof ProblemError)) throw error
  return error.problems.map(({ cause, remedy }) => `${cause} ${remedy}`).join(' ')
}

/** What is to be played for some contestants: those that can be run, each agent once. */
export function plannedTasks(
  contestants: readonly Contestant[],
  document: EnvironmentDocument,
  ask: RunAsk,
): PlannedTask[] {
  const planned = new Map<string, PlannedTask>()
  for (const contestant of contestants) {
    if (contestantProblem(document, contestant) !== null) continue
    const { choice, follows } = contestant
    const acts = documentFor(document, contestant)
    const key = runKey(acts, contestant)
    if (!planned.has(key))
      planned.set(key, { key, task: { document: acts, choice, ...(follows ? { follows } : {}), ask } })
  }
  return [...planned.values()]
}

/** Episodes that a chunk should have about: less costs more in messages, more costs more when a machine dies. */
const CHUNK_EPISODES = 20_000

/** Runs of a chunk. @param parts  chunks that there should be at the least, so that all cores have some */
export function chunkSize(tasks: readonly PlannedTask[], runs: number, parts: number): number {
  const episodes = Math.max(1, ...tasks.map(({ task }) => task.choice.episodes))
  return Math.max(1, Math.min(Math.ceil(CHUNK_EPISODES / episodes), Math.ceil((tasks.length * runs) / parts)))
}

/**
 * The work of some tasks in chunks. All contestants come on at the same time, so that what is drawn meanwhile can be
 * compared from the beginning.
 * @param has  whether a run of a task is there already
 */
export function chunksOf(
  tasks: number,
  runs: number,
  size: number,
  has: (task: number, run: number) => boolean = () => false,
): RunChunk[] {
  const chunks: RunChunk[] = []
  for (let from = 0; from < runs; from += size)
    for (let task = 0; task < tasks; task++) {
      const to = Math.min(runs, from + size)
      let missing = from
      while (missing < to && has(task, missing)) missing++
      if (missing < to) chunks.push({ task, from, to })
    }
  return chunks
}
