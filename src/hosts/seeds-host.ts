import { createLearner } from '../core/learn/methods/learners'
import { modelOfRun } from '../core/environment/problem-of-run'
import { EXACT_STATES } from '../core/limits'
import { summarise } from '../core/learn/seeds'
import { World } from '../core/learn/world'
import { startValue } from '../core/model/model'
import { evaluatePolicy } from '../core/plan/evaluate'
import { failure, type Host, type Post } from './host'
import type { SeedsReply, SeedsRequest } from './protocol/seeds'

type Opened = Extract<SeedsRequest, { type: 'open' }>

const CHUNK = 1_000_000

/** Takes whole runs one after the other, as they are asked for. */
export class SeedsHost implements Host<SeedsRequest> {
  private opened: { readonly request: Opened; readonly world: World } | undefined

  private constructor(private readonly post: Post<SeedsReply>) {}

  static readonly create = (post: Post<SeedsReply>) => new SeedsHost(post)

  hear(request: SeedsRequest): void {
    try {
      if (request.type === 'open') this.opened = { request, world: new World(request.model) }
      else if (this.opened) this.takeRun(this.opened.request, this.opened.world, request.run)
    } catch (error) {
      this.post(failure(this.opened?.request.session ?? 0, error))
    }
  }

  private takeRun(
    { session, document, method, settings, table, episodes, window }: Opened,
    written: World,
    run: number,
  ): void {
    const world = document ? new World(modelOfRun(document, written.model, settings.seed, run)) : written
    const { model } = world
    const learner = createLearner(method, world, { ...settings, run }, 'results')
    if (table) learner.begin(table)
    while (learner.advance(CHUNK) > 0);
    let exact: number | 'never ends' | null = null
    if (model.states <= EXACT_STATES) {
      const result = evaluatePolicy(model, world.toModelRows(learner.policy()), settings.discount)
      if (result.outcome === 'solved') exact = startValue(model, result.values)
      else if (result.outcome === 'never-ends') exact = 'never ends'
    }
    const summary = summarise(learner, episodes, window, exact)
    this.post({ type: 'run', session, summary }, [summary.means.buffer])
  }
}
