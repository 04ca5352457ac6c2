import { documentOfRun } from '../environment/problem-of-run'
import { compileEnvironment } from '../environment/compile'
import { createLearner } from '../learn/methods/learners'
import { World } from '../learn/world'
import { gapsOfRows } from './arm-tables'
import { addRun, emptyPullSums, pointsOf, pullsPerPoint, type PullSums } from './pull-sums'
import { episodesOf, type BanditDocument, type PullPlayer, type PullTask } from './pull-task'

/** Runs of any learner, pull by pull. */
export class PlainPlayer implements PullPlayer {
  private sums: PullSums
  private readonly reward: Float64Array
  private readonly best: Float64Array
  private readonly regret: Float64Array
  private problem: { readonly document: BanditDocument; readonly world: World; readonly gap: Float64Array }

  constructor(private readonly task: PullTask) {
    const points = pointsOf(task.pulls)
    this.sums = emptyPullSums(task.pulls)
    this.reward = new Float64Array(points)
    this.best = new Float64Array(points)
    this.regret = new Float64Array(points)
    this.problem = problemOf(task.document)
  }

  play(run: number): void {
    const { task, sums } = this
    const { method, settings, pulls } = task
    const document = documentOfRun(task.document, settings.seed, run) as BanditDocument
    if (document !== this.problem.document) this.problem = problemOf(document)
    const { world, gap } = this.problem
    const learner = createLearner(method, world, {
      ...settings,
      run,
      episodes: episodesOf(task),
      stop: { kind: 'episodes' },
    })
    const bin = pullsPerPoint(pulls)
    let total = 0
    let sum = 0
    let hits = 0
    let regret = 0
    for (let t = 0; t < pulls; t++) {
      learner.advance(1)
      if (learner.status.outcome === 'diverged') {
        sums.runs++
        sums.diverged++
        return
      }
      const { state, row, reward } = learner.last
      const missed = gap[world.rowStart[state] + row - world.tableStart[world.observation[state]]]
      regret += missed
      total += reward
      sum += reward
      hits += missed === 0 ? 1 : 0
      const over = (t % bin) + 1
      if (over < bin && t + 1 < pulls) continue
      const point = Math.floor(t / bin)
      this.reward[point] = sum / over
      this.best[point] = hits / over
      this.regret[point] = regret
      sum = 0
      hits = 0
    }
    addRun(sums.measures.reward, this.reward)
    addRun(sums.measures.best, this.best)
    addRun(sums.measures.regret, this.regret)
    addRun(sums.score, Float64Array.of(total / pulls))
    sums.runs++
  }

  take(): PullSums {
    const { sums } = this
    this.sums = emptyPullSums(this.task.pulls)
    return sums
  }
}

function problemOf(document: BanditDocument) {
  return {
    document,
    world: new World(compileEnvironment(document).model),
    gap: gapsOfRows(document.bandit),
  }
}
