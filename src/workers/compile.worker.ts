import { scorePolicies } from '../core/evaluate/scores'
import { kindOf, type Compiled } from '../core/kinds/kinds'
import { ProblemError } from '../core/problem'
import type { CompileReply, CompileRequest } from './protocol'

/**
 * Compiles one environment at a time, in slices where its kind can: a newer request, or a cancel, is heard between
 * two of them.
 */
const scope = self as unknown as {
  postMessage(message: CompileReply, transfer?: Transferable[]): void
}

/** Rows between looks at the clock. */
const CHUNK = 500
/** How long a slice may take, in milliseconds. */
const SLICE = 80
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
  if (!last || !kindOf(last).scoresPolicies) return
  const scores = scorePolicies(last.model, last.policies, last.measures, discount)
  scope.postMessage({ type: 'scored', session, scores })
}

async function compile(request: Extract<CompileRequest, { type: 'compile' }>, mine: number) {
  const { session, document } = request
  try {
    const compiled = await inSlices(request, mine)
    if (!compiled) return
    // A small model is copied and kept here for scoring; a large one is handed over as it is.
    last = compiled.model.rows > SCORE_LIMIT ? undefined : compiled
    scope.postMessage({ type: 'compiled', session, compiled }, last ? [] : buffersOf(compiled))
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

/** @returns undefined when another request came in between */
async function inSlices(
  { session, document }: Extract<CompileRequest, { type: 'compile' }>,
  mine: number,
): Promise<Compiled | undefined> {
  const compilation = kindOf(document).compile(document)
  let reported = performance.now()
  for (;;) {
    const until = performance.now() + SLICE
    let done = false
    while (!done && performance.now() < until) done = compilation.advance(CHUNK)
    if (done) return compilation.finish()
    if (performance.now() - reported > REPORT) {
      reported = performance.now()
      scope.postMessage({ type: 'progress', session, ...compilation.progress })
    }
    await new Promise((resolve) => setTimeout(resolve))
    if (mine !== ticket) return undefined
  }
}

/** The memory of all typed arrays of a compiled environment, wherever in it they are. */
function buffersOf(value: unknown, found = new Set<ArrayBuffer>()): ArrayBuffer[] {
  if (ArrayBuffer.isView(value)) found.add(value.buffer as ArrayBuffer)
  else if (typeof value === 'object' && value !== null)
    for (const each of Object.values(value)) if (typeof each === 'object') buffersOf(each, found)
  return [...found]
}
