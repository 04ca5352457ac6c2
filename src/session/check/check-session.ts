import { createStore, type StoreApi } from 'zustand'
import { checkProblems } from '../../core/check/check-problems'
import type { CheckReport } from '../../core/check/finding'
import { playHand, type Hand, type HandState } from '../../core/check/hand'
import type { SamplingReport } from '../../core/check/sampling'
import type { Walk } from '../../core/check/walk'
import type { Compiled, EnvironmentDocument } from '../../core/kinds/kinds'
import { World } from '../../core/learn/world'
import type { Model } from '../../core/model/model'
import type { Problem } from '../../core/problem'
import { capFor } from '../../core/settings/settings'
import { placeOfLink } from './finding-link'
import { startCheckWorker, type Connection } from '../../hosts/browser/launcher'
import type { CheckReply, CheckRequest } from '../../hosts/protocol/check'

/** What is walked on the board: an episode by hand, the story of a finding, or an episode of a policy. */
export type Walked =
  | { readonly kind: 'hand' }
  | { readonly kind: 'story' | 'trial'; readonly walk: Walk; readonly title: string }

export interface CheckState {
  /** Of the environment as it was when it was last checked; null before the first time. */
  readonly report: CheckReport | null
  /** Whether the environment has changed since. */
  readonly stale: boolean
  /** How far checking is that goes on. */
  readonly progress: { readonly done: number; readonly of: number } | null
  readonly failure: string | null
  /** Checking was stopped by hand. */
  readonly stopped: boolean
  /** What drawing came to; null where it was not done for the model that is on the board. */
  readonly sampling: SamplingReport | null
  readonly drawing: boolean
  /** The finding that is looked at, by its place in the report. */
  readonly chosen: number | null
  /** What a link asked for and is not there, by its name in the link. */
  readonly missing: string | null
  readonly hand: Hand
  /** How the hand stands; null while there is no model. */
  readonly played: HandState | null
  readonly walked: Walked
  /** Steps taken of what is walked. */
  readonly at: number
}

/** Trying an environment by hand, and what is found in it. Knows no React. */
export interface CheckSession {
  readonly store: StoreApi<CheckState>
  /** Keeps up with the environment. @param wanted  whether large ones are checked now too */
  open(
    document: EnvironmentDocument,
    compiled: Compiled | null,
    problems: readonly Problem[],
    wanted: boolean,
  ): void
  /** Draws from the model, and compares what falls with what is declared. */
  sample(): void
  /** Gives up checking and drawing that go on. */
  stop(): void
  /** Checks once more what was stopped. */
  again(): void
  /** Takes an action from where the head stands; what came after it is dropped. @param forced  the outcome to come */
  act(action: number, forced?: number | null): void
  /** Begins again: from a state, or from a start that is drawn. */
  begin(start: number | null): void
  /** Other draws. */
  deal(part: Pick<Hand, 'seed'> | Pick<Hand, 'episode'>): void
  /** Looks at a finding, and walks its story where it has one; null for none. */
  choose(finding: number | null): void
  /** Looks at the finding that a link names. */
  follow(name: string): void
  walk(walked: Walked): void
  /** To after so many steps of what is walked. */
  go(at: number): void
}

/** Models with more rows are checked only while somebody looks. */
const LARGE = 100_000
/** Quiet time before an environment that changes is checked, in milliseconds. */
const DELAY = 200
/** Draws of a sampling in all, and its episodes. */
const DRAWS = 1_000_000
const EPISODES = 10_000
const NO_MOVES: Hand = { seed: 1, episode: 0, start: null, moves: [] }

export function createCheckSession(
  startWorker: () => Connection<CheckRequest, CheckReply> = startCheckWorker,
): CheckSession {
  const store = createStore<CheckState>()(() => ({
    report: null,
    stale: false,
    progress: null,
    failure: null,
    stopped: false,
    sampling: null,
    drawing: false,
    chosen: null,
    missing: null,
    hand: NO_MOVES,
    played: null,
    walked: { kind: 'hand' },
    at: 0,
  }))
  let connection: Connection<CheckRequest, CheckReply> | undefined
  let session = 0
  let timer: ReturnType<typeof setTimeout> | undefined
  let world: World | undefined
  let cap = 0
  let discount = 1
  let latest: Pick<CheckRequest & { type: 'check' }, 'document' | 'compiled'> | null = null
  /** What was checked last, or is being checked. */
  let asked: readonly unknown[] = []

  const giveUp = () => {
    clearTimeout(timer)
    session++
    // It hears nothing while it works.
    const { progress, drawing } = store.getState()
    if (!progress && !drawing) return
    connection?.close()
    connection = undefined
    store.setState({ progress: null, drawing: false })
  }
  const fail = (failure: string) => {
    giveUp()
    store.setState({ failure })
  }
  const connect = () => {
    if (!connection) {
      connection = startWorker()
      connection.listen(
        (reply) => {
          if (reply.session !== session) return
          if (reply.type === 'progress') store.setState({ progress: { done: reply.done, of: reply.of } })
          else if (reply.type === 'failed') fail(reply.message)
          else if (reply.type === 'sampled') store.setState({ sampling: reply.sampling, drawing: false })
          else store.setState({ report: reply.report, stale: false, progress: null, failure: null })
        },
        () => fail('The computation failed.'),
      )
    }
    return connection
  }
  const check = (document: EnvironmentDocument, compiled: Compiled) => {
    latest = { document, compiled }
    store.setState({ progress: { done: 0, of: 1 }, failure: null, stopped: false })
    connect().post({ type: 'check', session, document, compiled })
  }
  /** Plays the moves again: another model, other draws or other moves. */
  const replay = (hand: Hand, at?: number) => {
    const played = world ? playHand(world, hand, cap) : null
    // Moves that are not possible any more are dropped with all that came after.
    const moves = played ? hand.moves.slice(0, played.walk.outcomes.length) : hand.moves
    store.setState({
      hand: moves.length === hand.moves.length ? hand : { ...hand, moves },
      played,
      walked: { kind: 'hand' },
      at: Math.min(at ?? moves.length, moves.length),
    })
  }
  /** A hand belongs to a model by its numbers: to another one it is carried by names. */
  const carry = (before: Model | undefined, after: Model): Hand => {
    const { hand } = store.getState()
    if (!before || before === after) return hand
    const actions = before.actions.map((name) => after.actions.indexOf(name))
    const start = hand.start === null ? null : after.labels.indexOf(before.labels[hand.start])
    return {
      ...hand,
      start: start === null || start < 0 || after.ending[start] ? null : start,
      // What was forced is another outcome there.
      moves: hand.moves.map(({ action }) => ({ action: actions[action], forced: null })),
    }
  }

  const choose = (finding: number | null) => {
    const { report, chosen } = store.getState()
    const found = finding === null || finding === chosen ? undefined : report?.findings[finding]
    store.setState({ chosen: found ? finding : null, missing: null })
    if (!found?.walk)
      return store.setState(({ hand }) => ({ walked: { kind: 'hand' }, at: hand.moves.length }))
    store.setState({
      walked: { kind: 'story', walk: found.walk, title: found.cause },
      at: found.walk.outcomes.length,
    })
  }

  return {
    store,
    open(document, compiled, problems, wanted) {
      discount = document.discount
      const looked = wanted || (compiled !== null && compiled.model.rows <= LARGE)
      // A large model is made ready to be played in only when somebody looks.
      if (looked && compiled && (world?.model !== compiled.model || cap !== document.cap)) {
        const before = world?.model
        if (world?.model !== compiled.model) world = new World(compiled.model)
        cap = document.cap
        const { walked, at } = store.getState()
        replay(carry(before, compiled.model))
        if (before === compiled.model && walked.kind === 'hand') store.setState({ at })
      }
      const now = [compiled, problems, document.discount, document.cap, document.policy, document.checks]
      if (now.every((each, i) => each === asked[i]) || (!compiled && !problems.length)) return
      giveUp()
      store.setState(({ report, walked, hand, at }) => ({
        stopped: false,
        sampling: null,
        chosen: null,
        missing: null,
        stale: report !== null,
        walked: { kind: 'hand' },
        // A story of what was before may be longer than the episode by hand.
        at: walked.kind === 'hand' ? at : hand.moves.length,
      }))
      if (problems.length) {
        asked = now
        store.setState({ report: checkProblems(problems), stale: false, failure: null })
      } else if (compiled && looked) {
        asked = now
        timer = setTimeout(() => check(document, compiled), DELAY)
      }
    },
    sample() {
      const { hand, progress } = store.getState()
      if (!world || progress) return
      store.setState({ sampling: null, drawing: true, failure: null })
      connect().post({
        type: 'sample',
        session,
        model: world.model,
        settings: { draws: DRAWS, episodes: EPISODES, seed: hand.seed, cap: capFor(cap), discount },
      })
    },
    stop() {
      const { progress } = store.getState()
      giveUp()
      if (progress) store.setState({ stopped: true })
    },
    again() {
      if (!latest || store.getState().progress) return
      giveUp()
      check(latest.document, latest.compiled)
    },
    act(action, forced = null) {
      const { hand, walked, at } = store.getState()
      const taken = walked.kind === 'hand' ? at : hand.moves.length
      replay({ ...hand, moves: [...hand.moves.slice(0, taken), { action, forced }] })
    },
    begin: (start) => replay({ ...store.getState().hand, start, moves: [] }),
    deal: (part) => replay({ ...store.getState().hand, ...part, moves: [] }),
    choose,
    follow(name) {
      const { report } = store.getState()
      const place = report && placeOfLink(report, name)
      if (place === null) store.setState({ missing: name })
      else if (place !== store.getState().chosen) choose(place)
    },
    walk: (walked) =>
      store.setState(({ hand }) => ({ walked, at: walked.kind === 'hand' ? hand.moves.length : 0 })),
    go(at) {
      const state = store.getState()
      const to = Math.max(0, Math.min(walkOf(state)?.outcomes.length ?? 0, at))
      if (to !== state.at) store.setState({ at: to })
    },
  }
}

/** What is walked on the board; null while there is no model. */
export function walkOf({ walked, played }: Pick<CheckState, 'walked' | 'played'>): Walk | null {
  return walked.kind === 'hand' ? (played?.walk ?? null) : walked.walk
}

/** The state where the head stands. */
export function stateWalked(model: Model, state: CheckState): number | null {
  const walk = walkOf(state)
  if (!walk) return null
  return state.at === 0 ? walk.start : model.outcomeState[walk.outcomes[state.at - 1]]
}
