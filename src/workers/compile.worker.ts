import {
  compiledFrom,
  compileEnvironment,
  type Compiled,
  type RulebookEnvironment,
} from '../core/environment/document'
import { scorePolicies } from '../core/evaluate/scores'
import { ProblemError } from '../core/problem'
import { RulebookCompiler } from '../core/kinds/rulebook/enumerate'
import type { CompileReply, CompileRequest } from './protocol'

/**
 * Compiles one environment at a time. A rulebook, which can take long, is compiled in slices: a newer request, or a
 * cancel, is heard between two of them.
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
  if (!last?.facts) return
  const scores = scorePolicies(last.model, last.facts.policies, last.measures, discount)
  scope.postMessage({ type: 'scored', session, scores })
}

async function compile({ session, document }: Extract<CompileRequest, { type: 'compile' }>, mine: number) {
  try {
    const compiled =
      document.kind === 'rulebook' ? await inSlices(document, session, mine) : compileEnvironment(document)
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
  document: RulebookEnvironment,
  session: number,
  mine: number,
): Promise<Compiled | undefined> {
  const compiler = new RulebookCompiler(document.rulebook, document.cap)
  let reported = performance.now()
  for (;;) {
    const until = performance.now() + SLICE
    let done = false
    while (!done && performance.now() < until) done = compiler.advance(CHUNK)
    if (done) return compiledFrom(compiler.finish())
    if (performance.now() - reported > REPORT) {
      reported = performance.now()
      scope.postMessage({ type: 'progress', session, ...compiler.progress })
    }
    await new Promise((resolve) => setTimeout(resolve))
    if (mine !== ticket) return undefined
  }
}

/** The memory of all typed arrays of a compiled environment. */
function buffersOf({ model, space, measures, facts }: Compiled): ArrayBuffer[] {
  const arrays = [
    ...Object.values(model as unknown as Record<string, unknown>),
    space?.index,
    ...measures.map(({ perRow }) => perRow),
    ...(facts?.policies ?? []).map(({ policy }) => policy),
  ].filter((each) => ArrayBuffer.isView(each))
  return [...new Set(arrays.map(({ buffer }) => buffer as ArrayBuffer))]
}
