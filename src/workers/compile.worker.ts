import { compiledFrom, type Compiled } from '../core/environment/document'
import { scorePolicies } from '../core/evaluate/scores'
import { ProblemError } from '../core/problem'
import { RulebookCompiler } from '../core/rulebook/enumerate'
import type { CompileReply, CompileRequest } from './protocol'

/** Compiles one rulebook at a time, in slices: a newer request, or a cancel, is heard between two of them. */
const scope = self as unknown as { postMessage(message: CompileReply): void }

/** Rows between looks at the clock. */
const CHUNK = 500
/** How long a slice may take, in milliseconds. */
const SLICE = 30
/** Between two reports of progress, in milliseconds. */
const REPORT = 100

/** Policies of larger models are not scored: it would take too long beside the writing. */
const SCORE_LIMIT = 20_000

let ticket = 0
let last: Compiled | undefined

self.onmessage = ({ data }: MessageEvent<CompileRequest>) => {
  if (data.type === 'score') {
    score(data.session, data.discount)
    return
  }
  ticket++
  last = undefined
  if (data.type === 'compile') void compile(data, ticket)
}

function score(session: number, discount: number): void {
  if (!last?.facts || last.model.rows > SCORE_LIMIT) return
  const scores = scorePolicies(last.model, last.facts.policies, last.measures, discount)
  scope.postMessage({ type: 'scored', session, scores })
}

async function compile({ session, document }: Extract<CompileRequest, { type: 'compile' }>, mine: number) {
  try {
    const compiler = new RulebookCompiler(document.rulebook, document.cap)
    let reported = performance.now()
    for (;;) {
      const until = performance.now() + SLICE
      let done = false
      while (!done && performance.now() < until) done = compiler.advance(CHUNK)
      if (done) break
      if (performance.now() - reported > REPORT) {
        reported = performance.now()
        scope.postMessage({ type: 'progress', session, ...compiler.progress })
      }
      await new Promise((resolve) => setTimeout(resolve))
      if (mine !== ticket) return
    }
    last = compiledFrom(compiler.finish())
    scope.postMessage({ type: 'compiled', session, compiled: last })
    score(session, document.discount)
  } catch (error) {
    if (error instanceof ProblemError)
      scope.postMessage({ type: 'refused', session, problems: error.problems })
    else
      scope.postMessage({
        type: 'failed',
        session,
        message: error instanceof Error ? error.message : String(error),
      })
  }
}
