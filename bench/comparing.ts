import { resolve } from 'node:path'
import type { Contestant } from '../src/core/compare/contestant'
import { chunksOf, plannedTasks, type RunChunk } from '../src/core/compare/run-plan'
import { compileEnvironment } from '../src/core/environment/compile'
import { newHead } from '../src/core/environment/head'
import type { EnvironmentDocument } from '../src/core/kinds/kinds'
import { constant } from '../src/core/learn/schedule'
import { choiceIn } from '../src/core/settings/first-choice'
import { createRunPool } from '../src/hosts/node/run-pool'
import type { Figures } from './measured'
import { endingsBenchDocument } from './models'

/**
 * Five contestants with 30 runs of 5,000 episodes each on a grid, on all cores: steps a second, all of them together.
 * Says on the side how busy the cores were.
 */
export async function comparing(
  states: number,
  episodes = 5000,
): Promise<Figures & { readonly states: number }> {
  const document: EnvironmentDocument = {
    ...newHead('Grid', ''),
    kind: 'grid',
    grid: endingsBenchDocument(states),
  }
  const contestants = (['q-learning', 'sarsa', 'q-learning', 'sarsa', 'q-learning'] as const).map(
    (method, id): Contestant => ({
      id,
      knobs: {},
      choice: choiceIn(document, { method, episodes, learningRate: constant(0.1 + id / 100) }),
    }),
  )
  const planned = plannedTasks(contestants, document, { measures: [], trials: 0 })
  const chunks = chunksOf(planned.length, 30, 4)
  const pool = createRunPool(resolve('.workers/runs.mjs'))
  const play = async ({ task, from, to }: RunChunk) => {
    const runs = await pool.run({ key: planned[task].key, task: planned[task].task, from, to }, 0)
    return runs.reduce((sum, { steps }) => sum + steps, 0)
  }
  await Promise.all(chunks.slice(0, 4).map(play))
  const [started, used] = [performance.now(), process.cpuUsage()]
  const steps = (await Promise.all(chunks.map(play))).reduce((sum, taken) => sum + taken, 0)
  const seconds = (performance.now() - started) / 1000
  const { user, system } = process.cpuUsage(used)
  console.error(
    `compare: ${chunks.length} chunks, ${pool.slots} cores ${Math.round((user + system) / 1e4 / seconds / pool.slots)} % busy`,
  )
  await pool.close()
  return {
    rate: steps / seconds,
    unit: 'steps/s',
    seconds,
    rounds: [steps / seconds],
    states: compileEnvironment(document).model.states,
  }
}
