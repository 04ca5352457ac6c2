import { randomInt } from 'node:crypto'
import { beginBody, handInBody, partBody, stepsBody } from '../contract/play'
import { documentWorkers } from '../document-workers'
import type { Playable } from '../../hosts/node/document-tasks'
import type { Model } from '../../core/model/model'
import { refuse } from '../../core/problem'
import {
  beginPlay,
  endPlay,
  playSession,
  sessionsOf,
  stepPlay,
  type PlaySession,
} from '../play/play-sessions'
import { beginHandIn, partPlayed, programHandIn, type ProgramHandIn } from '../play/program-hand-ins'
import { getAssignment, listAssignments, type Assignment } from '../repositories/assignments'
import { findHandIn } from '../repositories/hand-ins'
import { emptyAnswer, jsonAnswer, nothingAnswer, problemAnswer, readJson, SMALL_BODY } from './answers'
import { checkedBody } from './bodies'
import { forMember } from './for-member'

/** Things that can be seen whose names are told at the most. */
const MOST_NAMES = 10_000
/** Models of levels that are kept. */
const REMEMBERED = 50

/** GET: what is handed out. */
export function list(request: Request): Promise<Response> {
  return forMember(request, async (db, { classId }) => {
    const given = await listAssignments(db, classId)
    const found = await Promise.all(given.map(({ id }) => getAssignment(db, classId, id)))
    return jsonAnswer(
      found.flatMap((each) =>
        each
          ? {
              exercise: each.id,
              name: each.exercise.name,
              levels: each.exercise.levels.map(({ name, points }) => ({ name, points })),
              takesPrograms: each.exercise.accepts.includes('program'),
            }
          : [],
      ),
    )
  })
}

/** POST: begins episodes. */
export function begin(request: Request): Promise<Response> {
  return forMember(request, async (db, { id, classId }) => {
    const body = checkedBody<{ exercise: string; level?: string; episodes: number; seed: number | null }>(
      beginBody,
      await readJson(request, SMALL_BODY),
    )
    const given = await getAssignment(db, classId, body.exercise)
    if (!given) return nothingAnswer()
    const { levels } = given.exercise
    const level = body.level === undefined ? 0 : levels.findIndex(({ name }) => name === body.level)
    if (level < 0)
      refuse(
        'level',
        `There is no level “${body.level}”.`,
        `The levels are ${levels.map(({ name }) => name).join(', ')}.`,
      )
    const playable = await playableOf(given, level)
    const session = beginPlay({
      player: id,
      assignment: given.id,
      level: levels[level].name,
      playable,
      seed: body.seed ?? randomInt(2 ** 32),
      first: 0,
      episodes: body.episodes,
      part: null,
    })
    return jsonAnswer(begun(session, playable), 201)
  })
}

/** GET: the sessions that go on. */
export function sessions(request: Request): Promise<Response> {
  return forMember(request, async (_, { id }) => jsonAnswer(sessionsOf(id).map(standing)))
}

/** GET: how a session stands, after a connection was lost. */
export function read(request: Request, session: string): Promise<Response> {
  return forMember(request, async (_, { id }) => {
    const found = playSession(id, session)
    return found ? jsonAnswer(standing(found)) : gone()
  })
}

/** POST: actions for all open episodes. */
export function step(request: Request, session: string): Promise<Response> {
  return forMember(request, async (db, { id }) => {
    const found = playSession(id, session)
    if (!found) return gone()
    const { number, actions } = checkedBody<{ number: number; actions: number[] }>(
      stepsBody,
      await readJson(request, SMALL_BODY),
    )
    const answered = stepPlay(found, number, actions)
    if (!answered.open.length) await partPlayed(db, found)
    return jsonAnswer(answered)
  })
}

/** DELETE: closes a session. */
export function close(request: Request, session: string): Promise<Response> {
  return forMember(request, async (_, { id }) => (endPlay(id, session) ? emptyAnswer() : gone()))
}

/** POST: begins a hand-in that a program plays. */
export function handIn(request: Request): Promise<Response> {
  return forMember(request, async (db, { id, classId }) => {
    const { exercise } = checkedBody<{ exercise: string }>(handInBody, await readJson(request, SMALL_BODY))
    const given = await getAssignment(db, classId, exercise)
    return given ? jsonAnswer(handInOf(await beginHandIn(db, given, id)), 201) : nothingAnswer()
  })
}

/** GET: how a hand-in stands. */
export function readHandIn(request: Request, handInId: string): Promise<Response> {
  return forMember(request, async (db, { id }) => {
    const playing = programHandIn(id, handInId)
    if (playing) return jsonAnswer(handInOf(playing))
    const found = await findHandIn(db, handInId, id)
    if (found) {
      const { state, score } = found
      return jsonAnswer({ handIn: handInId, state, parts: [], points: score && score.points })
    }
    return gone()
  })
}

/** POST: begins a part of a hand-in: all its episodes at once. @returns a session */
export function beginPart(request: Request, handInId: string): Promise<Response> {
  return forMember(request, async (_, { id }) => {
    const found = programHandIn(id, handInId)
    if (!found) return gone()
    const { part: number } = checkedBody<{ part: number }>(partBody, await readJson(request, SMALL_BODY))
    const part = found.parts[number]
    if (!part || part.session)
      refuse(
        'part',
        part ? `Part ${number} was begun before.` : `There is no part ${number}.`,
        part
          ? 'Go on with its session, or begin a new hand-in.'
          : `The parts are 0 to ${found.parts.length - 1}.`,
      )
    const { assignment } = found
    const playable = await playableOf(assignment, part.level)
    const session = beginPlay({
      player: id,
      assignment: assignment.id,
      level: assignment.exercise.levels[part.level].name,
      playable,
      seed: part.seed,
      first: 0,
      episodes: part.episodes,
      part: { handIn: handInId, part: number },
    })
    part.session = session.id
    return jsonAnswer(begun(session, playable), 201)
  })
}

function handInOf({ id, assignment, parts }: ProgramHandIn) {
  return {
    handIn: id,
    state: 'playing',
    parts: parts.map(({ level, episodes, session, returns }) => ({
      level: assignment.exercise.levels[level].name,
      episodes,
      state: returns ? 'played' : session ? 'playing' : 'to play',
    })),
    points: null,
  }
}

/** How a session stands. */
function standing({ id, assignment, level, seed, part, last, episodes }: PlaySession) {
  return {
    session: id,
    exercise: assignment,
    level,
    // What counts is played with a seed that nobody knows beforehand.
    seed: part ? null : seed,
    number: last,
    open: episodes.open,
    observations: episodes.observations(),
  }
}

/** A session as it begins, with what an agent may know. */
function begun(session: PlaySession, { model, cap, discount }: Playable) {
  const few = model.observations <= MOST_NAMES
  return {
    ...standing(session),
    actions: model.actions,
    names: few ? namesOf(model) : null,
    possible: few ? possibleOf(model) : null,
    stepLimit: cap,
    discount,
  }
}

/** [observations] the name of what is seen: that of the state, where it is only one. */
function namesOf({ states, observation, observations, labels }: Model): string[] {
  const names = new Array<string>(observations).fill('')
  const number = new Int32Array(observations)
  for (let s = 0; s < states; s++) {
    if (!number[observation[s]]++) names[observation[s]] = labels[s]
  }
  return names.map((name, o) => (number[o] > 1 ? `sees ${o}` : name))
}

/** [observations] the actions that are possible. */
function possibleOf({ states, observation, observations, rowStart, rowAction }: Model): number[][] {
  const possible = new Array<number[]>(observations).fill([])
  for (let s = 0; s < states; s++)
    possible[observation[s]] = Array.from(rowAction.subarray(rowStart[s], rowStart[s + 1]))
  return possible
}

// Next.js loads server modules more than once: a model is kept once all the same.
const shared = globalThis as { jauntyPawnPlayables?: Map<string, Promise<Playable>> }

function playableOf({ id, content }: Assignment, level: number): Promise<Playable> {
  const kept = (shared.jauntyPawnPlayables ??= new Map())
  const key = `${id} ${level}`
  let found = kept.get(key)
  if (!found) {
    found = documentWorkers().urgent.do('model', { exercise: content, level })
    found.catch(() => kept.delete(key))
    kept.set(key, found)
    for (const old of kept.keys()) if (kept.size > REMEMBERED) kept.delete(old)
  }
  return found
}

function gone(): Response {
  return problemAnswer(404, {
    place: 'session',
    cause: 'You have none of that id, or no longer.',
    remedy: 'Begin another one.',
  })
}
