import { createStore, type StoreApi } from 'zustand'
import { agentName, usualAgents, usualVariable, type Agent } from '../../core/compare/agents'
import { numbered } from '../../core/compare/numbered'
import { addPullSums, emptyPullSums, type PullMeasure, type PullSums } from '../../core/compare/pull-sums'
import type { BanditDocument, PullTask } from '../../core/compare/pull-task'
import { triedChoices, type VariableRange } from '../../core/compare/variables'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { completeChoice, settingsOf, type LearnChoice } from '../../core/settings/choice'
import { startPullsWorker, type Connection } from '../../hosts/browser/launcher'
import type { PullsReply, PullsRequest } from '../../hosts/protocol/pulls'
import { WorkPool } from '../work-pool'
import { browserKeptRuns, type KeptRuns } from './kept-run'

export interface AgentsState {
  readonly agents: readonly Agent[]
  /** The agents that are not drawn, by number. */
  readonly hidden: ReadonlySet<number>
  /** Runs of each agent, and pulls of each run. */
  readonly runs: number
  readonly pulls: number
  /** Where a study goes. */
  readonly range: VariableRange
  /** What came of the runs, by `taskKey`. */
  readonly results: Readonly<Record<string, PullSums>>
  /** What is drawn: curves over pulls, or scores over a setting. */
  readonly picture: 'curves' | 'study'
  readonly measure: PullMeasure
  /** Whether pulls are drawn on a logarithmic axis. */
  readonly logarithmic: boolean
  readonly bands: boolean
  readonly running: boolean
  /** Runs done and asked for, of all agents together. */
  readonly done: number
  readonly asked: number
  readonly failure: string | null
}

/** Many agents on many runs of a bandit, on all cores. Knows no React. */
export interface AgentsSession {
  readonly store: StoreApi<AgentsState>
  /** Brings back what was here when the page went away, or the usual agents; once. */
  open(document: EnvironmentDocument, choice: LearnChoice): void
  add(choice: LearnChoice): void
  remove(id: number): void
  change(id: number, part: Partial<Omit<Agent, 'id'>>): void
  hide(id: number, hidden: boolean): void
  set(
    part: Partial<
      Pick<AgentsState, 'runs' | 'pulls' | 'range' | 'picture' | 'measure' | 'logarithmic' | 'bands'>
    >,
  ): void
  /** Forgets the list and makes it that of the usual agents. */
  reset(document: EnvironmentDocument, choice: LearnChoice): void
  /** Plays the runs that the picture wants and are not there. */
  start(document: EnvironmentDocument): void
  stop(): void
}

/** Milliseconds between two pictures of the runs at the least. */
const SHOWN = 300
/** Pulls that are played between two reports of a worker. */
const CHUNK = 100_000

export function isBandit(document: EnvironmentDocument): document is BanditDocument {
  return document.kind === 'bandit'
}

/** What makes the results of two tasks the same: the arms, the agent, and how many runs of how many pulls. */
export function taskKey(document: BanditDocument, choice: LearnChoice, runs: number, pulls: number): string {
  // The number of the run and how long Learn goes on do not count here.
  const { run: _run, episodes: _episodes, stop: _stop, ...agent } = choice
  return JSON.stringify([document.bandit, agent, runs, pulls])
}

/** What a picture of the agents needs to be drawn. */
export function wantedChoices({ agents, hidden, picture, range }: AgentsState): LearnChoice[] {
  const shown = agents.filter(({ id }) => !hidden.has(id))
  return picture === 'curves'
    ? shown.map(({ choice }) => choice)
    : shown.flatMap((agent) => triedChoices(agent.choice, agent.varied, range).map(({ choice }) => choice))
}

export function createAgentsSession(
  environment: string,
  kept: KeptRuns = browserKeptRuns(),
  cores: () => number = () => navigator.hardwareConcurrency || 2,
  startWorker: () => Connection<PullsRequest, PullsReply> = startPullsWorker,
): AgentsSession {
  const store = createStore<AgentsState>()(() => ({
    agents: [],
    hidden: new Set(),
    runs: 2000,
    pulls: 1000,
    range: { from: 1 / 128, to: 4 },
    results: {},
    picture: 'curves',
    measure: 'reward',
    logarithmic: false,
    bands: true,
    running: false,
    done: 0,
    asked: 0,
    failure: null,
  }))
  let opened = false
  const pool = new WorkPool<PullsRequest, PullsReply>(cores, startWorker)
  const keep = () => {
    const { agents, runs, pulls, range, results } = store.getState()
    void kept.write('agents', environment, { agents, runs, pulls, range, results })
  }
  const stop = () => {
    pool.stop()
    store.setState({ running: false })
  }
  const setAgents = (agents: readonly Agent[]) => {
    store.setState({ agents })
    keep()
  }
  return {
    store,
    open(document, choice) {
      if (opened || !isBandit(document)) return
      opened = true
      store.setState({ agents: usualAgents(document, choice) })
      void kept.read('agents', environment).then((found) => {
        if (!found || Object.keys(store.getState().results).length) return
        const agents = found.agents.map((agent) => ({ ...agent, choice: completeChoice(agent.choice) }))
        store.setState({ ...found, agents })
      })
    },
    add(choice) {
      const { agents } = store.getState()
      const id = Math.max(-1, ...agents.map((agent) => agent.id)) + 1
      setAgents([...agents, { id, choice, varied: usualVariable(choice) }])
    },
    remove: (id) => setAgents(store.getState().agents.filter((agent) => agent.id !== id)),
    change: (id, part) =>
      setAgents(store.getState().agents.map((agent) => (agent.id === id ? { ...agent, ...part } : agent))),
    hide(id, hidden) {
      const all = new Set(store.getState().hidden)
      if (hidden) all.add(id)
      else all.delete(id)
      store.setState({ hidden: all })
    },
    set(part) {
      store.setState(part)
      // How it is looked at is not kept: the results are large.
      if ('runs' in part || 'pulls' in part || 'range' in part) keep()
    },
    reset(document, choice) {
      if (isBandit(document)) setAgents(usualAgents(document, choice))
    },
    start(document) {
      if (!isBandit(document)) return
      stop()
      const { runs, pulls } = store.getState()
      const wanted = new Map<string, PullTask>()
      const results: Record<string, PullSums> = {}
      for (const choice of wantedChoices(store.getState())) {
        const key = taskKey(document, choice, runs, pulls)
        const known = store.getState().results[key]
        if (known?.runs === runs) results[key] = known
        else
          wanted.set(key, {
            document,
            method: choice.method,
            settings: settingsOf(choice, () => null),
            pulls,
          })
      }
      const keys = [...wanted.keys()]
      // Earlier results stay only where they are wanted still, and other pictures of the same runs.
      for (const [key, sums] of Object.entries(store.getState().results))
        if (sums.runs === runs && Object.keys(results).length < KEPT_RESULTS) results[key] ??= sums
      store.setState({ results, failure: null, done: 0, asked: keys.length * runs, running: keys.length > 0 })
      if (keys.length === 0) return
      const size = Math.max(1, Math.floor(CHUNK / pulls))
      const chunks = Math.ceil(runs / size)
      // Every agent comes on at the same time; the parts of each are added in their order, so that sums are the same bits.
      const parts = keys.map(() => new Map<number, PullSums>())
      const sums = keys.map(() => emptyPullSums(pulls))
      const jobs = Array.from({ length: chunks * keys.length }, (_, i): PullsRequest => {
        const from = Math.floor(i / keys.length) * size
        return { type: 'play', task: i % keys.length, from, to: Math.min(runs, from + size) }
      })
      let done = 0
      let shownAt = Date.now()
      const show = () => {
        shownAt = Date.now()
        store.setState(({ results: before }) => ({
          results: { ...before, ...Object.fromEntries(keys.map((key, i) => [key, { ...sums[i] }])) },
          done,
        }))
      }
      pool.start({
        open: (session) => ({ type: 'open', session, tasks: [...wanted.values()] }),
        jobs,
        take({ task, from, sums: part }) {
          parts[task].set(from, part)
          const sum = sums[task]
          for (let more = parts[task].get(sum.runs); more; more = parts[task].get(sum.runs)) {
            parts[task].delete(sum.runs)
            addPullSums(sum, more)
          }
          done += part.runs
          // Pictures take their time: the work comes first.
          if (Date.now() >= shownAt + SHOWN) show()
        },
        finish() {
          show()
          store.setState({ running: false })
          keep()
        },
        fail: (failure) => store.setState({ running: false, failure }),
      })
    },
    stop,
  }
}

/** Results of other settings that are kept at the most. */
const KEPT_RESULTS = 200

/** Agents by what tells them apart. */
export function agentNames(agents: readonly Agent[]): string[] {
  return numbered(agents.map(({ choice }) => agentName(choice)))
}
