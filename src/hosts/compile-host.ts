import { scorePolicies } from '../core/evaluate/scores'
import { startWays } from '../core/plan/ending-notes'
import { kindOf, type Compiled } from '../core/kinds/kinds'
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

/**
 * Compiles one environment at a time, in slices where its kind can: a newer request, or a cancel, is heard between
 * two of them.
 */
export class CompileHost implements Host<CompileRequest> {
  private ticket = 0
  private last: Compiled | undefined

  private constructor(
    private readonly post: Post<CompileReply>,
    private readonly clock: Clock,
  ) {}

  static readonly create = (post: Post<CompileReply>, clock: Clock) => new CompileHost(post, clock)

  hear(request: CompileRequest): void {
    if (request.type === 'score') return this.score(request.session, request.discount)
    this.ticket++
    this.last = undefined
    if (request.type === 'compile') void this.compile(request, this.ticket)
  }

  private score(session: number, discount: number): void {
    const { last } = this
    if (!last || !kindOf(last).scoresPolicies) return
    const scores = scorePolicies(last.model, last.policies, last.measures, discount)
    this.post({ type: 'scored', session, scores })
  }

  private async compile(request: Asked, mine: number): Promise<void> {
    const { session, document } = request
    try {
      const compiled = await this.inSlices(request, mine)
      if (!compiled) return
      // A small model is copied and kept here for scoring; a large one is shared, or else handed over as it is.
      const large = compiled.model.rows > SCORE_LIMIT
      this.last = large ? undefined : compiled
      const handedOver = large && !canShare()
      const ways = handedOver ? startWays(compiled.model) : null
      const sent = large ? shared(compiled) : compiled
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
    const compilation = kindOf(document).compile(document)
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
