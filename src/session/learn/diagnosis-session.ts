import { createStore, type StoreApi } from 'zustand'
import type { DiagnosisAsk } from '../../core/diagnose/diagnose'
import type { DiagnosisReport } from '../../core/diagnose/finding'
import { startDiagnoseWorker, type Connection } from '../../hosts/browser/launcher'
import type { DiagnoseReply, DiagnoseRequest } from '../../hosts/protocol/diagnose'

export interface DiagnosisState {
  /** What was found; null before it was looked for. */
  readonly report: DiagnosisReport | null
  /** What it was looked for in. */
  readonly ask: DiagnosisAsk | null
  /** How far looking is that goes on. */
  readonly progress: { readonly done: number; readonly of: number } | null
  readonly failure: string | null
  /** Runs that are looked at besides, to tell what is luck. */
  readonly others: number
  /** The finding whose states are marked on the board, by its place; null for none. */
  readonly pointed: number | null
}

/** What is wrong with a run. Knows no React. */
export interface DiagnosisSession {
  readonly store: StoreApi<DiagnosisState>
  /** Looks for what is wrong; what went on before is given up. */
  start(ask: Omit<DiagnosisAsk, 'runs'>): void
  stop(): void
  /** Forgets what was found: the run is another one. */
  clear(): void
  setOthers(others: number): void
  point(finding: number | null): void
  /** Ends its worker. */
  close(): void
}

const FRESH = { report: null, ask: null, progress: null, failure: null, pointed: null }

export function createDiagnosisSession(
  startWorker: () => Connection<DiagnoseRequest, DiagnoseReply> = startDiagnoseWorker,
): DiagnosisSession {
  const store = createStore<DiagnosisState>()(() => ({ ...FRESH, others: 9 }))
  let connection: Connection<DiagnoseRequest, DiagnoseReply> | undefined
  let session = 0
  const stop = () => {
    session++
    // It hears nothing while it works.
    if (store.getState().progress) {
      connection?.close()
      connection = undefined
      store.setState({ progress: null })
    }
  }
  const connect = () => {
    if (!connection) {
      connection = startWorker()
      const fail = (failure: string) => {
        stop()
        store.setState({ failure })
      }
      connection.listen(
        (reply) => {
          if (reply.session !== session) return
          if (reply.type === 'progress') store.setState({ progress: { done: reply.done, of: reply.of } })
          else if (reply.type === 'failed') fail(reply.message)
          else store.setState({ report: reply.report, progress: null })
        },
        () => fail('The computation failed.'),
      )
    }
    return connection
  }
  return {
    store,
    start(run) {
      stop()
      const ask = { ...run, runs: store.getState().others }
      store.setState({ ...FRESH, ask, progress: { done: 0, of: 1 } })
      connect().post({ session, ask })
    },
    stop,
    clear() {
      stop()
      const { report, failure, ask } = store.getState()
      if (report ?? failure ?? ask) store.setState(FRESH)
    },
    setOthers: (others) => store.setState({ others }),
    point: (pointed) => store.setState({ pointed }),
    close() {
      stop()
      connection?.close()
      connection = undefined
    },
  }
}
