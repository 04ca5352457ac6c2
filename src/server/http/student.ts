import { environmentOf } from '../../core/exercise/exercise'
import { handInWords } from '../../core/exercise/hand-in-words'
import { MOST_BYTES } from '../../core/exercise/read-hand-in'
import { decodeText } from '../../core/formats/text'
import { kindOf, type EnvironmentDocument } from '../../core/kinds/kinds'
import { refuse } from '../../core/problem'
import type { Member } from '../access/caller'
import { countFor, waitOf } from '../access/limits'
import type { StudentExercise, StudentHome } from '../contract/classes'
import type { Database } from '../db/schema'
import { documentWorkers } from '../document-workers'
import { sessionsOf, watched } from '../play/play-sessions'
import { getAssignment, listAssignments, type Assignment } from '../repositories/assignments'
import { getStudent, giveToken } from '../repositories/classes'
import { bestPoints, handIn, ownHandIns, triesLeft } from '../repositories/hand-ins'
import { scoreLater } from '../scoring'
import { jsonAnswer, nothingAnswer, problemAnswer, readBytes } from './answers'
import { standings } from './classes'
import { forMember } from './for-member'
import type { Seen } from '../../core/exercise/seen'

/** What a student's own page shows. */
export async function studentHome(db: Database, { id, classId }: Member): Promise<StudentHome | undefined> {
  const [student, given, best] = await Promise.all([
    getStudent(db, id),
    listAssignments(db, classId),
    bestPoints(db, id),
  ])
  return (
    student && {
      className: student.className,
      name: student.name,
      alias: student.alias,
      exercises: given.map((each) => ({
        id: each.id,
        name: each.name,
        closesAt: each.closesAt,
        best: best.get(each.id) ?? null,
        of: each.points,
      })),
    }
  )
}

/** GET: what there is for the student. */
export function home(request: Request): Promise<Response> {
  return forMember(request, async (db, student) => {
    const found = await studentHome(db, student)
    return found ? jsonAnswer(found) : nothingAnswer()
  })
}

/** What students see of assignments, which is worked out once. */
const seen = new Map<string, Promise<Seen | null>>()
const REMEMBERED = 100

function seenOf({ id, content }: Assignment): Promise<Seen | null> {
  let found = seen.get(id)
  if (!found) {
    found = documentWorkers().urgent.do('seen', { exercise: content })
    found.catch(() => seen.delete(id))
    seen.set(id, found)
    for (const old of seen.keys()) if (seen.size > REMEMBERED) seen.delete(old)
  }
  return found
}

/** An exercise as a student sees it. Nothing of the environment is in it but what is listed here. */
export async function studentExercise(
  db: Database,
  { id, classId }: Member,
  assignmentId: string,
): Promise<StudentExercise | undefined> {
  const given = await getAssignment(db, classId, assignmentId)
  if (!given) return undefined
  const { exercise, tries, closesAt, madeUpNames, revealed } = given
  const [states, own, left] = await Promise.all([
    seenOf(given),
    ownHandIns(db, given, id),
    triesLeft(db, given, id),
  ])
  return {
    id: assignmentId,
    name: exercise.name,
    note: exercise.note,
    levels: exercise.levels.map(({ name, points }) => ({ name, points })),
    episodes: exercise.episodes,
    accepts: exercise.accepts,
    tries,
    closesAt,
    madeUpNames,
    hidden: exercise.seeds.hidden !== null,
    revealed,
    seen: states,
    handIns: own,
    left,
  }
}

/** GET: an exercise. */
export function readExercise(request: Request, assignment: string): Promise<Response> {
  return forMember(request, async (db, student) => {
    const found = await studentExercise(db, student, assignment)
    return found ? jsonAnswer(found) : nothingAnswer()
  })
}

/** GET: a small picture of the board, as SVG, where the exercise shows it. @param draw  draws it */
export function picture(
  request: Request,
  assignmentId: string,
  draw: (document: EnvironmentDocument) => string,
): Promise<Response> {
  return forMember(request, async (db, student) => {
    const given = await getAssignment(db, student.classId, assignmentId)
    if (!given) return nothingAnswer()
    const { shows, environment } = given.exercise
    // What has no floor has a picture of its text.
    if (shows === 'names' || !kindOf(environment).lying) return nothingAnswer()
    return new Response(draw(environmentOf(given.exercise, given.exercise.levels[0])), {
      headers: { 'content-type': 'image/svg+xml', 'cache-control': 'private, max-age=3600' },
    })
  })
}

/** POST: what is handed in: a policy as JSON or CSV, a learned table, or a rule. @returns `{id, state}` */
export function create(request: Request, assignmentId: string): Promise<Response> {
  return forMember(request, async (db, student) => {
    const given = await getAssignment(db, student.classId, assignmentId)
    if (!given) return nothingAnswer()
    const wait = await countFor('handIn', student.id)
    if (wait) return waitAnswer('You hand in too often.', `${wait} s`)
    const rest = await waitOf('scoring', student.id)
    if (rest)
      return waitAnswer(
        'Scoring your hand-ins took ten minutes this hour.',
        `${Math.ceil(rest / 60)} minutes`,
      )
    const content = decodeText(await readBytes(request, MOST_BYTES))
    if (content.trim() === '')
      refuse('the hand-in', 'It is empty.', `Hand in ${handInWords(given.exercise.accepts)}.`)
    const made = await handIn(db, given, student.id, content)
    if (made.state === 'waiting') scoreLater(db)
    return jsonAnswer(made, 201)
  })
}

function waitAnswer(cause: string, time: string): Response {
  return problemAnswer(429, { place: 'the hand-in', cause, remedy: `Wait ${time}.` })
}

/** GET: the standings, as the student sees them. */
export function readStandings(request: Request, assignmentId: string): Promise<Response> {
  return forMember(request, async (db, student) => {
    const [given, who] = await Promise.all([
      getAssignment(db, student.classId, assignmentId),
      getStudent(db, student.id),
    ])
    return given && who ? jsonAnswer(await standings(db, who.className, given, student.id)) : nothingAnswer()
  })
}

/** GET: what the student’s programs play of an exercise now. */
export function playing(request: Request, assignmentId: string): Promise<Response> {
  return forMember(request, async (_, { id }) =>
    jsonAnswer(
      sessionsOf(id)
        .filter(({ assignment }) => assignment === assignmentId)
        .map(watched),
    ),
  )
}

/** POST: a new token for the student's programs. @returns `{token}`, which nobody can ask for again */
export function createToken(request: Request): Promise<Response> {
  return forMember(request, async (db, student) => jsonAnswer({ token: await giveToken(db, student) }, 201))
}
