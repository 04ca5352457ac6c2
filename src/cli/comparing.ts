import { fileURLToPath } from 'node:url'
import { askOf, wantedContestants } from '../core/compare/asked-runs'
import { newComparison, type Comparison } from '../core/compare/comparison'
import { contestantNames, documentFor, type Contestant } from '../core/compare/contestant'
import type { LearningRun, RunAsk } from '../core/compare/learning-runs'
import {
  chunksOf,
  chunkSize,
  contestantProblem,
  plannedTasks,
  runKey,
  type PlannedTask,
} from '../core/compare/run-plan'
import { bestOf, bootstrapMean, differenceOf, meanWithError } from '../core/compare/run-statistics'
import { SCORE_IDS, scoreOf, scoresOf } from '../core/compare/scores'
import {
  checkAxis,
  sweepOf,
  variedByFlag,
  variedTitle,
  type Sweep,
  type SweepAxis,
  type SweepValue,
} from '../core/compare/sweep'
import type { NamedRuns } from '../core/compare/runs-csv'
import type { EnvironmentDocument } from '../core/kinds/kinds'
import { fingerprintText } from '../core/model/fingerprint'
import { refuse } from '../core/problem'
import { PROGRAM } from '../core/program'
import type { LearnChoice } from '../core/settings/choice'
import { createRunPool, type ChunkRunner } from '../hosts/node/run-pool'
import { UsageError } from './arguments'

/** Threads on all cores, or as many as are said; scripts/pawn.mjs has made what they run. */
export function runPool(cores?: number): ChunkRunner {
  return createRunPool(fileURLToPath(new URL('../../.workers/runs.mjs', import.meta.url)), cores)
}

/** Told after every chunk: runs that are done, of how many. */
export type RunsDone = (done: number, of: number) => void

/** Plays all runs of some tasks. @returns them by key, in the order of their numbers */
async function playTasks(
  planned: readonly PlannedTask[],
  runs: number,
  runner: ChunkRunner,
  tell: RunsDone,
): Promise<ReadonlyMap<string, readonly LearningRun[]>> {
  const size = chunkSize(planned, runs, 4 * runner.slots)
  const chunks = chunksOf(planned.length, runs, size)
  const found = new Map(planned.map(({ key }) => [key, [] as LearningRun[]]))
  let next = 0
  let done = 0
  const worker = async () => {
    while (next < chunks.length) {
      const { task, from, to } = chunks[next++]
      const { key, task: contestant } = planned[task]
      found.get(key)!.push(...(await runner.run({ key, task: contestant, from, to }, 0)))
      done += to - from
      tell(done, planned.length * runs)
    }
  }
  await Promise.all(Array.from({ length: runner.slots }, worker))
  for (const list of found.values()) list.sort((x, y) => x.run - y.run)
  return found
}

/** The scores of some runs, by name: mean and half of its 95 % interval; null where no run has one. */
function scoreTable(runs: readonly LearningRun[], ids: readonly string[]) {
  return Object.fromEntries(
    ids.map((id) => {
      const known = scoresOf(runs, scoreOf(id))
      return [id, known.length ? meanWithError(known) : null]
    }),
  )
}

/** @throws ProblemError naming the contestant that cannot be run */
function refuseBroken(
  contestants: readonly Contestant[],
  names: readonly string[],
  document: EnvironmentDocument,
) {
  contestants.forEach((contestant, i) => {
    const problem = contestantProblem(document, contestant)
    if (problem) refuse(`contestant ${names[i]}`, problem, 'Change it, or hide it.')
  })
}

/** What a comparison came to. */
export async function compare(
  comparison: Comparison,
  document: EnvironmentDocument,
  runner: ChunkRunner,
  tell: RunsDone,
) {
  const { view, runs, contestants } = comparison
  const started = performance.now()
  const ask = askOf(comparison)
  const all = contestantNames(contestants)
  const shown = wantedContestants({ ...comparison, view: { ...view, picture: 'curves' } }, document)
  if (!shown.length)
    refuse('contestants', 'There is none that is shown.', 'Add one, or leave "hidden" empty.')
  const names = shown.map((each) => all[contestants.indexOf(each)])
  refuseBroken(shown, names, document)
  const found = await playTasks(plannedTasks(shown, document, ask), runs, runner, tell)
  const groups = shown.map((contestant, i): NamedRuns => ({
    name: names[i],
    runs: found.get(keyOf(contestant, document))!,
  }))
  const score = scoreOf(view.score)
  const best = bestOf(
    groups.map((group) => group.runs),
    view.score,
  )
  return {
    result: {
      name: comparison.name,
      runs,
      score: view.score,
      contestants: groups.map((group) => ({
        name: group.name,
        runs: group.runs.length,
        scores: scoreTable(
          group.runs,
          SCORE_IDS.filter((id) => !scoreOf(id).trials || ask.trials > 0),
        ),
        environment: fingerprintText(group.runs[0]?.fingerprint ?? 0),
        optimum: group.runs[0]?.optimum ?? null,
        steps: group.runs.reduce((sum, { steps }) => sum + steps, 0),
      })),
      best: best && groups[best.best].name,
      differences: best
        ? groups.flatMap((group, i) => {
            const difference =
              i === best.best ? null : differenceOf(groups[best.best].runs, group.runs, view.score)
            return difference ? [{ from: group.name, ...difference }] : []
          })
        : [],
      lessIsBetter: score.smaller ?? false,
      program: PROGRAM,
      seconds: (performance.now() - started) / 1000,
    },
    groups,
  }
}

export interface SweepOptions {
  readonly choice: LearnChoice
  /** Each `name=values`. */
  readonly vary: readonly string[]
  readonly score: string
  readonly runs: number
  /** Episodes after each run, for scores that take some. */
  readonly trials: number
}

/** What a sweep of one or two settings came to, cell by cell. */
export async function sweep(
  document: EnvironmentDocument,
  { choice, vary, score: id, runs, trials }: SweepOptions,
  runner: ChunkRunner,
  tell: RunsDone,
) {
  const started = performance.now()
  const axes = vary.map((text) => readAxis(text, document))
  if (axes.length > 2)
    usage('--vary', `There are ${axes.length} of them.`, 'One or two settings can be varied at once.')
  const ask: RunAsk = askOf({ view: { ...newComparison('').view, picture: 'sweep', score: id }, trials })
  const contestant: Contestant = { id: 0, knobs: {}, choice }
  for (const axis of axes) checkAxis(axis, [contestant], document)
  const cells = sweepOf(contestant, { axes } as unknown as Sweep, document)
  if (cells.length === 0)
    refuse(
      `--vary ${vary.join(' --vary ')}`,
      'The agent has no such setting, the environment no such knob, or they take none of these values.',
      'See pawn learn --help for settings, and the file for its knobs.',
    )
  const planned = plannedTasks(
    cells.map((cell) => cell.contestant),
    document,
    ask,
  )
  const found = await playTasks(planned, runs, runner, tell)
  const score = scoreOf(id)
  const groups = cells.map((cell): NamedRuns & { readonly values: readonly SweepValue[] } => ({
    name: 'agent',
    values: cell.values,
    runs: found.get(keyOf(cell.contestant, document))!,
  }))
  const named = (values: readonly SweepValue[]) =>
    Object.fromEntries(axes.map(({ varied }, i) => [variedTitle(varied), values[i]]))
  const best = bestOf(
    groups.map((group) => group.runs),
    id,
  )
  return {
    result: {
      method: choice.method,
      score: id,
      runs,
      cells: groups.map((group) => {
        const known = scoresOf(group.runs, score)
        const interval = known.length > 1 ? bootstrapMean(known) : null
        return {
          values: named(group.values),
          mean: known.length ? meanWithError(known).mean : null,
          low: interval?.low ?? null,
          high: interval?.high ?? null,
          runs: known.length,
        }
      }),
      best: best && named(groups[best.best].values),
      notToldFromBest: best ? best.alike.map((i) => named(groups[i].values)) : [],
      lessIsBetter: score.smaller ?? false,
      program: PROGRAM,
      seconds: (performance.now() - started) / 1000,
    },
    groups,
    varied: axes.map(({ varied }) => variedTitle(varied)),
  }
}

function keyOf(contestant: Contestant, document: EnvironmentDocument): string {
  return runKey(documentFor(document, contestant), contestant)
}

function readAxis(text: string, document: EnvironmentDocument): SweepAxis {
  const at = text.indexOf('=')
  if (at <= 0 || at === text.length - 1)
    usage(
      '--vary',
      `It is "${text}".`,
      'Write --vary learning-rate=0.05..1/8, or the name of a knob or an option and its values.',
    )
  return { varied: variedByFlag(text.slice(0, at).trim(), document), values: text.slice(at + 1) }
}

function usage(place: string, cause: string, remedy: string): never {
  throw new UsageError([{ place, cause, remedy }])
}
