import { playTrials } from '../core/evaluate/rollout'
import { World } from '../core/learn/world'
import { solveOptimum } from '../core/plan/solve'
import type { TrialsReply, TrialsRequest } from './protocol'

/** Plays trials of several policies, one after the other. */
const scope = self as unknown as { postMessage(message: TrialsReply): void }

self.onmessage = ({ data }: MessageEvent<TrialsRequest>) => {
  const { session, model, contestants, settings, measures } = data
  try {
    const world = new World(model)
    for (const { title, policy } of contestants) {
      const followed = policy ?? solveOptimum(model, settings.discount)?.ties
      if (followed)
        scope.postMessage({
          type: 'trials',
          session,
          title,
          policy: followed,
          trials: playTrials(world, followed, settings, measures),
        })
    }
    scope.postMessage({ type: 'finished', session })
  } catch (error) {
    scope.postMessage({
      type: 'failed',
      session,
      message: error instanceof Error ? error.message : String(error),
    })
  }
}
