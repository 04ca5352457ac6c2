import { createStore, type StoreApi } from 'zustand'
import { compilerProblem } from '../../core/environment/compile-result'
import { sameModel } from '../../core/environment/same-model'
import { kindOf, type Compiled, type EnvironmentDocument } from '../../core/kinds/kinds'
import type { Score } from '../../core/evaluate/scores'
import { startWays, type StartWays } from '../../core/plan/ending-notes'
import { ProblemError, type Problem } from '../../core/problem'
import { startCompileWorker, type Connection } from '../../hosts/browser/launcher'
import type { CompileReply, CompileRequest } from '../../hosts/protocol/compile'
import { compiledOf, compilesAtOnce } from './compiled'

/** The model of the document on screen: the one it has, or the last good one it had. */
export interface ModelState {
  readonly compiled: Compiled | null
  /** The document that `compiled` was made from. */
  readonly source: EnvironmentDocument | null
  /** What is wrong with the document now; empty when `compiled` is its model. */
  readonly problems: readonly Problem[]
  /** How far a compilation is that is going on. */
  readonly progress: { readonly states: number; readonly rows: number } | null
  /** What its policies are worth; null until that is known, or where the model is too large. */
  readonly scores: readonly Score[] | null
  /** Tells how far the endings are; null until that is known. */
  readonly ways: (() => StartWays) | null
  /** A long compilation was stopped by hand. */
  readonly stopped: boolean
}

/** Keeps the model up with the document. Knows no React. */
export interface ModelSession {
  readonly store: StoreApi<ModelState>
  open(document: EnvironmentDocument): void
  /** Stops a compilation that is going on; the next change begins a new one. */
  stop(): void
  close(): void
}

/** What is wrong with a document, before anything is worked out. */
function faultsOf(document: EnvironmentDocument): readonly Problem[] {
  try {
    kindOf(document).check(document)
    return []
  } catch (error) {
    return error instanceof ProblemError ? error.problems : [compilerProblem(error)]
  }
}

/** What is small is compiled at once; what is large, or may be, in a worker. */
export function createModelSession(
  startWorker: () => Connection<CompileRequest, CompileReply> = startCompileWorker,
): ModelSession {
  const store = createStore<ModelState>()(() => ({
    compiled: null,
    source: null,
    problems: [],
    progress: null,
    stopped: false,
    scores: null,
    ways: null,
  }))
  let connection: Connection<CompileRequest, CompileReply> | undefined
  let session = 0
  let asked: EnvironmentDocument | undefined
  /** The session in which the worker sent the model that is there; null for one that was made here. */
  let has: number | null = null

  const hear = (reply: CompileReply) => {
    if (reply.session !== session || !asked) return
    switch (reply.type) {
      case 'progress':
        return store.setState({ progress: { states: reply.states, rows: reply.rows } })
      case 'compiled':
        has = session
        return store.setState({
          compiled: reply.compiled,
          source: asked,
          problems: [],
          progress: null,
          scores: null,
          ways: null,
        })
      case 'renewed': {
        const { compiled } = store.getState()
        // Plans and runs stay with a model that stays the same.
        if (compiled?.kind !== reply.rest.kind) return
        return store.setState({
          compiled: { ...compiled, ...reply.rest } as Compiled,
          source: asked,
          problems: [],
          progress: null,
          scores: null,
        })
      }
      case 'ways':
        return store.setState({ ways: () => reply.ways })
      case 'scored':
        return store.setState({ scores: reply.scores })
      case 'refused':
        return store.setState({ problems: reply.problems, progress: null })
      case 'failed':
        return store.setState({ progress: null, problems: [compilerProblem(reply.message)] })
      default:
        reply satisfies never
    }
  }
  return {
    store,
    open(document) {
      if (sameModel(asked, document)) {
        if (asked!.discount !== document.discount) {
          asked = document
          connection?.post({ type: 'score', session, discount: document.discount })
        }
        return
      }
      asked = document
      session++
      if (compilesAtOnce(document)) {
        const result = compiledOf(document)
        const rest = { progress: null, stopped: false }
        has = null
        store.setState(
          result.ok
            ? {
                ...rest,
                compiled: result.compiled,
                source: document,
                problems: [],
                ways: () => startWays(result.compiled.model),
              }
            : { ...rest, compiled: null, source: null, problems: result.problems, ways: null },
        )
        // One that is still at work on a larger document is no longer wanted.
        connection?.post({ type: 'cancel' })
        return
      }
      // Faults that show at once are told at once, and those of before are gone: only counting states takes time.
      const faults = faultsOf(document)
      if (faults.length) {
        store.setState({ problems: faults, progress: null, stopped: false })
        connection?.post({ type: 'cancel' })
        return
      }
      if (!connection) {
        connection = startWorker()
        connection.listen(hear)
      }
      store.setState({ problems: [], progress: { states: 0, rows: 0 }, stopped: false })
      connection.post({ type: 'compile', session, document, has })
    },
    stop() {
      session++
      connection?.post({ type: 'cancel' })
      store.setState({ progress: null, stopped: true })
    },
    close() {
      connection?.close()
      connection = undefined
      has = null
      asked = undefined
    },
  }
}
