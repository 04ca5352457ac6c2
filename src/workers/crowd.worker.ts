import { summarise } from '../core/learn/crowd'
import { learnMethod } from '../core/learn/methods/methods'
import { World } from '../core/learn/world'
import { startValue } from '../core/model/model'
import { evaluatePolicy } from '../core/plan/evaluate'
import type { CrowdReply, CrowdRequest } from './protocol'

/** Takes whole runs one after the other, as they are asked for. */
const scope = self as unknown as { postMessage(message: CrowdReply, transfer?: Transferable[]): void }

/** Up to so many states the policy of each run is evaluated exactly. */
const EXACT_LIMIT = 5000
const CHUNK = 1_000_000

let open: Extract<CrowdRequest, { type: 'open' }> | undefined
let world: World | undefined

self.onmessage = ({ data }: MessageEvent<CrowdRequest>) => {
  try {
    if (data.type === 'open') {
      open = data
      world = new World(data.model)
    } else if (open && world) oneRun(open, world, data.run)
  } catch (error) {
    scope.postMessage({
      type: 'failed',
      session: open?.session ?? 0,
      message: error instanceof Error ? error.message : String(error),
    })
  }
}

function oneRun(
  { session, method, settings, table, episodes, window }: Extract<CrowdRequest, { type: 'open' }>,
  shared: World,
  run: number,
): void {
  const { model } = shared
  const learner = learnMethod(method).create(shared, { ...settings, run })
  if (table) learner.begin(table)
  while (learner.advance(CHUNK) > 0);
  let exact: number | 'never ends' | null = null
  if (model.states <= EXACT_LIMIT) {
    const result = evaluatePolicy(model, shared.modelPolicy(learner.policy()), settings.discount)
    if (result.outcome === 'solved') exact = startValue(model, result.values)
    else if (result.outcome === 'never-ends') exact = 'never ends'
  }
  const summary = summarise(learner, episodes, window, exact)
  scope.postMessage({ type: 'run', session, summary }, [summary.means.buffer])
}
