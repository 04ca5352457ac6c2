import { renewEnvironment } from '../core/environment/compile'
import { scorePolicies } from '../core/evaluate/scores'
import { startWays } from '../core/plan/ending-notes'
import { compilerOf } from '../core/kinds/compiler-of'
import { kindOf, type Compiled, type EnvironmentDocument } from '../core/kinds/kinds'
import { ProblemError } from '../core/problem'
import { failure, pause, type Clock, type Host, type Post } from './host'
import { canShare, shared } from './wire'
import type { CompileReply, CompileRequest } from './protocol/compile'

type Asked = Extract<CompileRequest, { type: 'compile' }>

/** Rows between looks at the clock. */
const CHUNK = 500
/** How long a slice may take, in milliseconds. */
const SLICE = 80
/** Between two reports of progress, in milliseconds. */
const REPORT = 100

/** Policies of larger models are not scored: it would take too long beside the writing. */
const SCORE_LIMIT = 20_000

interface Made {
  /** The session in which its model was made: the model stays when only what lies around it is renewed. */
  readonly madeIn: number
  readonly session: number
  readonly document: EnvironmentDocument
  readonly compiled: Compiled
}

/**
 * Compiles one environment at a time, in slices where its kind can: a newer request, or a cancel, is heard between
 * two of them.
 */
export class CompileHost implements Host<CompileRequest> {
  private ticket = 0
  /** What was made last, as far as it was not handed over. */
  private last: Made | undefined

  private constructor(
    private readonly post: Post<CompileReply>,
    private readonly clock: Clock,
  ) {}

  static readonly create = (post: Post<CompileReply>, clock: Clock) => new CompileHost(post, clock)

  hear(request: CompileRequest): void {
    if (request.type === 'score') return this.score(request.session, request.discount)
    this.ticket++
    if (request.type === 'compile') void this.compile(request, this.ticket)
  }

  /** @returns whether the model that is there already serves */
  private renew({ session, document, has }: Asked): boolean {
    const { last } = this
    if (!last || has !== last.madeIn) return false
    const renewed = renewEnvironment(last.document, last.compiled, document)
    if (!renewed) return false
    const compiled = renewed.model.rows > SCORE_LIMIT ? shared(renewed) : renewed
    this.last = { ...last, session, document, compiled }
    const { model: _model, space: _space, measures: _measures, ...rest } = compiled
    this.post({ type: 'renewed', session, rest })
    this.score(session, document.discount)
    return true
  }

  private score(session: number, discount: number): void {
    const { last } = this
    if (last?.session !== session) return
    const { model, policies, measures } = last.compiled
    if (model.rows > SCORE_LIMIT || !kindOf(last.document).scoresPolicies) return
    const scores = scorePolicies(model, policies, measures, discount)
    this.post({ type: 'scored', session, scores })
  }

  private async compile(request: Asked, mine: number): Promise<void> {
    const { session, document } = request
    try {
      if (this.renew(request)) return
      const compiled = await this.inSlices(request, mine)
      if (!compiled) return
      // A small model is copied; a large one is shared, or else handed over as it is, and then gone here.
      const large = compiled.model.rows > SCORE_LIMIT
      const handedOver = large && !canShare()
      const ways = handedOver ? startWays(compiled.model) : null
      const sent = large ? shared(compiled) : compiled
      this.last = handedOver ? undefined : { madeIn: session, session, document, compiled: sent }
      this.post({ type: 'compiled', session, compiled: sent }, handedOver ? buffersOf(compiled) : [])
      this.post({ type: 'ways', session, ways: ways ?? startWays(sent.model) })
      this.score(session, document.discount)
    } catch (error) {
      this.post(
        error instanceof ProblemError
          ? { type: 'refused', session, problems: error.problems }
          : failure(session, error),
      )
    }
  }

  /** @returns undefined when another request came in between */
  private async inSlices({ session, document }: Asked, mine: number): Promise<Compiled | undefined> {
    const { clock } = this
    const compilation = compilerOf(document).compile(document)
    let reported = clock.now()
    for (;;) {
      const until = clock.now() + SLICE
      let done = false
      while (!done && clock.now() < until) done = compilation.advance(CHUNK)
      if (done) return compilation.finish()
      if (clock.now() - reported > REPORT) {
        reported = clock.now()
        this.post({ type: 'progress', session, ...compilation.progress })
      }
      await pause(clock)
      if (mine !== this.ticket) return undefined
    }
  }
}

/** The memory of all typed arrays of a compiled environment, wherever in it they are. */
function buffersOf(value: unknown, found = new Set<ArrayBuffer>()): ArrayBuffer[] {
  if (ArrayBuffer.isView(value)) found.add(value.buffer as ArrayBuffer)
  else if (typeof value === 'object' && value !== null)
    for (const each of Object.values(value)) if (typeof each === 'object') buffersOf(each, found)
  return [...found]
}
