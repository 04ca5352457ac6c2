import { randomBytes } from 'node:crypto'
import { PlayedEpisodes, type PlayedStep } from '../../core/exercise/played-episodes'
import { World } from '../../core/learn/world'
import type { Model } from '../../core/model/model'
import { refuse } from '../../core/problem'
import type { Playable } from '../../hosts/node/document-tasks'
import type { WatchedSession } from '../contract/classes'

/** Episodes of a session at once. */
export const MOST_EPISODES = 1024
/** Sessions of one student that go on, and the episodes of all of them. */
const MOST_SESSIONS = 16
const MOST_ALTOGETHER = 4_096
/** How long a session is kept that nobody plays, in milliseconds. */
const KEPT = 15 * 60_000

/** The part of a hand-in that a session plays. */
export interface PlayedPart {
  readonly handIn: string
  readonly part: number
}

/** Episodes that a program plays. */
export interface PlaySession {
  readonly id: string
  /** Whose they are: the id of a student. */
  readonly player: string
  readonly assignment: string
  readonly level: string
  readonly seed: number
  readonly model: Model
  readonly episodes: PlayedEpisodes
  readonly number: number
  /** The number of the last request for steps, from 1; 0 before the first one, and what was answered. */
  last: number
  answer: StepAnswer | null
  readonly part: PlayedPart | null
  touched: number
}

/** What is answered to actions, and again to the same ones. */
export interface StepAnswer extends PlayedStep {
  readonly number: number
  /** Episodes that go on, by their numbers in the session. */
  readonly open: readonly number[]
}

// Next.js loads server modules more than once.
const shared = globalThis as { jauntyPawnPlay?: Map<string, PlaySession> }
const sessions = () => (shared.jauntyPawnPlay ??= new Map<string, PlaySession>())

/** Begins episodes. @throws ProblemError where a player has too many sessions */
export function beginPlay(about: {
  readonly player: string
  readonly assignment: string
  readonly level: string
  readonly playable: Playable
  readonly seed: number
  readonly first: number
  readonly episodes: number
  readonly part: PlayedPart | null
}): PlaySession {
  const { player, assignment, level, playable, seed, first, episodes, part } = about
  const { model, cap, discount } = playable
  forgetOld()
  const going = sessionsOf(player).filter((each) => each.episodes.open.length > 0)
  if (going.length >= MOST_SESSIONS)
    refuse('sessions', `You have ${MOST_SESSIONS} open.`, 'Close one of them, or play it to its end.')
  if (going.reduce((sum, each) => sum + each.number, episodes) > MOST_ALTOGETHER)
    refuse(
      'episodes',
      `With these you have more than ${MOST_ALTOGETHER} episodes open.`,
      'Close a session, or play fewer episodes at once.',
    )
  forgetFinished(player)
  const session: PlaySession = {
    id: randomBytes(12).toString('base64url'),
    ...{ player, assignment, level, seed, model, part },
    episodes: new PlayedEpisodes(new World(model), { seed, first, episodes, cap, discount }),
    number: episodes,
    last: 0,
    answer: null,
    touched: performance.now(),
  }
  sessions().set(session.id, session)
  return session
}

/** @returns undefined where the player has none of that id, or no longer */
export function playSession(player: string, id: string): PlaySession | undefined {
  const found = sessions().get(id)
  return found?.player === player ? found : undefined
}

export function sessionsOf(player: string): PlaySession[] {
  return [...sessions().values()].filter((each) => each.player === player)
}

/** @returns whether there was one */
export function endPlay(player: string, id: string): boolean {
  return playSession(player, id) !== undefined && sessions().delete(id)
}

/**
 * Takes an action in every open episode.
 * @param number   of the request: one more than that of the one before; the same one again is answered as before
 * @param actions  by open episode, an index into the actions of the model
 * @throws ProblemError where the number or an action does not fit; nothing has happened then
 */
export function stepPlay(session: PlaySession, number: number, actions: readonly number[]): StepAnswer {
  session.touched = performance.now()
  if (number === session.last && session.answer) return session.answer
  if (number !== session.last + 1)
    refuse(
      'number',
      `It is ${number}; the last one was ${session.last}.`,
      `Send ${session.last + 1} with the next actions, or ${session.last} to have the last answer again.`,
    )
  const { episodes } = session
  const { open } = episodes
  let step: PlayedStep
  try {
    step = episodes.step(actions)
  } catch (error) {
    if (!(error instanceof RangeError)) throw error
    const place =
      typeof error.cause === 'number' ? `actions.${error.cause} (episode ${open[error.cause]})` : 'actions'
    refuse(place, error.message, 'Send one possible action for each open episode, in their order.')
  }
  session.last = number
  session.answer = { number, ...step, open: episodes.open }
  return session.answer
}

/** Episodes whose places are told to those who watch. */
const WATCHED = 64

/** How a session goes, for the one whose program plays it: what is seen in its open episodes, by name. */
export function watched({ id, level, model, last, number, episodes }: PlaySession): WatchedSession {
  const { observation, labels } = model
  return {
    id,
    level,
    steps: last,
    episodes: number,
    open: episodes.open.length,
    // The first state that looks so: what an agent cannot tell apart is not told apart here.
    at: episodes
      .observations()
      .slice(0, WATCHED)
      .map((seen) => labels[observation.indexOf(seen)]),
  }
}

/** What has come to its end is kept for a lost connection, but not more of it than may go on at once. */
function forgetFinished(player: string): void {
  const finished = sessionsOf(player).filter((each) => each.episodes.open.length === 0)
  for (const { id } of finished.slice(0, Math.max(0, finished.length - MOST_SESSIONS))) sessions().delete(id)
}

function forgetOld(): void {
  const until = performance.now() - KEPT
  for (const { id, touched } of sessions().values()) if (touched < until) sessions().delete(id)
}
