import Joi from 'joi'
import { writeCsv } from '../../core/formats/csv'
import type { Score } from '../../core/exercise/score'
import type { Problem } from '../../core/problem'
import { forgetMembers } from '../access/gate'
import { keepSetting } from '../access/kept-settings'
import { newToken } from '../access/sessions'
import type { AssignmentTerms, ClassRecord, Standings } from '../contract/classes'
import { database } from '../db/database'
import type { Database } from '../db/schema'
import {
  changeAssignment,
  countedAssignments,
  getAssignment,
  handOut,
  type Assignment,
  type AssignmentChange,
} from '../repositories/assignments'
import { auditOf } from '../repositories/audit'
import {
  changeClass,
  CLASS_CHANGES,
  createClass,
  deleteClass,
  getClass,
  listClasses,
  membersOf,
  putOut,
  renameClass,
  type ClassChange,
} from '../repositories/classes'
import { exerciseText } from '../repositories/exercises'
import { listHandIns, standingsOf, waitingOf, type Ranked } from '../repositories/hand-ins'
import { answer, emptyAnswer, jsonAnswer, nothingAnswer, readJson } from './answers'
import { checkedBody, writtenText } from './bodies'
import { endStreams } from './event-stream'

const name = writtenText(80)
const nameBody = Joi.object({ name: name.required() }).required()
const changeBody = Joi.object({ name, change: Joi.valid(...Object.keys(CLASS_CHANGES)) })
  .xor('name', 'change')
  .required()
const terms = {
  tries: Joi.number().integer().min(1).max(500).allow(null).required(),
  closesAt: Joi.string().isoDate().allow(null).required(),
  madeUpNames: Joi.boolean().required(),
}
const handOutBody = Joi.object({ exercise: Joi.string().max(100).required(), ...terms }).required()
const assignmentBody = Joi.object({
  change: Joi.valid('terms', 'reveal', 'withdraw').required(),
  terms: Joi.object(terms).when('change', { is: 'terms', then: Joi.required(), otherwise: Joi.forbidden() }),
}).required()
const studentBody = Joi.object({ out: Joi.boolean().required() }).required()

/** GET: every class. */
export function list(request: Request): Promise<Response> {
  return answer(request, async () => jsonAnswer(await listClasses(await database())))
}

/** POST: `{name}`: a new class. @returns `{id}` */
export function create(request: Request): Promise<Response> {
  return answer(request, async () => {
    const { name } = checkedBody<{ name: string }>(nameBody, await readJson(request))
    return jsonAnswer({ id: await createClass(await database(), name) }, 201)
  })
}

/** A class with its students and what was handed out to it. @returns undefined where there is none */
export async function classRecord(db: Database, id: string): Promise<ClassRecord | undefined> {
  const found = await getClass(db, id)
  if (!found) return undefined
  const [members, assignments] = await Promise.all([membersOf(db, id), countedAssignments(db, id)])
  return { ...found, members, assignments }
}

/** GET: a class. */
export function read(request: Request, id: string): Promise<Response> {
  return answer(request, async () => {
    const found = await classRecord(await database(), id)
    return found ? jsonAnswer(found) : nothingAnswer()
  })
}

/** PATCH: `{name}` or `{change}`: see CLASS_CHANGES. */
export function change(request: Request, id: string): Promise<Response> {
  return answer(request, async () => {
    const body = checkedBody<{ name?: string; change?: ClassChange }>(changeBody, await readJson(request))
    const db = await database()
    const done = body.change ? await changeClass(db, id, body.change) : await renameClass(db, id, body.name!)
    forgetMembers()
    endStreams(id)
    return done ? emptyAnswer() : nothingAnswer()
  })
}

/** DELETE: deletes a class for good, with all that is kept of its students. */
export function remove(request: Request, id: string): Promise<Response> {
  return answer(request, async () => {
    const done = await deleteClass(await database(), id)
    forgetMembers()
    endStreams(id)
    return done ? emptyAnswer() : nothingAnswer()
  })
}

/** PATCH: `{out}`: puts a student out, or lets one in again. */
export function changeStudent(request: Request, id: string, student: string): Promise<Response> {
  return answer(request, async () => {
    const { out } = checkedBody<{ out: boolean }>(studentBody, await readJson(request))
    const done = await putOut(await database(), id, student, out)
    forgetMembers()
    endStreams(id)
    return done ? emptyAnswer() : nothingAnswer()
  })
}

/** POST: `{exercise, tries, closesAt, madeUpNames}`: hands an exercise out. @returns `{id}` */
export function createAssignment(request: Request, id: string): Promise<Response> {
  return answer(request, async () => {
    const body = checkedBody<AssignmentTerms & { exercise: string }>(handOutBody, await readJson(request))
    const db = await database()
    const [found, content] = await Promise.all([getClass(db, id), exerciseText(db, body.exercise)])
    if (!found?.code || content === undefined) return nothingAnswer()
    return jsonAnswer({ id: await handOut(db, id, content, body) }, 201)
  })
}

/** PATCH: `{change, terms}`. */
export function changeOfAssignment(request: Request, id: string, assignment: string): Promise<Response> {
  return answer(request, async () => {
    const body = checkedBody<AssignmentChange>(assignmentBody, await readJson(request))
    return (await changeAssignment(await database(), id, assignment, body)) ? emptyAnswer() : nothingAnswer()
  })
}

/** How long standings are kept for all who ask, in milliseconds. */
const KEPT = 1_000
const kept = new Map<string, { readonly until: number; readonly found: Promise<readonly Ranked[]> }>()

/** The standings of an exercise, looked up once a second for a whole class. */
function rankedOf(db: Database, assignment: Assignment): Promise<readonly Ranked[]> {
  const now = performance.now()
  for (const [key, { until }] of kept) if (until < now) kept.delete(key)
  const key = `${assignment.id} ${assignment.revealed} ${assignment.madeUpNames}`
  let entry = kept.get(key)
  if (!entry) kept.set(key, (entry = { until: now + KEPT, found: standingsOf(db, assignment) }))
  return entry.found
}

/** The standings of an exercise, as somebody sees them. @param who  whose line is marked; null for nobody’s */
export async function standings(
  db: Database,
  className: string,
  assignment: Assignment,
  who: string | null,
): Promise<Standings> {
  const { id, exercise, revealed } = assignment
  const [lines, waiting] = await Promise.all([rankedOf(db, assignment), waitingOf(db, id)])
  return {
    name: exercise.name,
    className,
    levels: exercise.levels.map((level) => ({ name: level.name, points: level.points })),
    revealed,
    waiting,
    standings: lines.map(({ studentId, ...line }) => ({ ...line, own: studentId === who })),
  }
}

/** GET: the standings, for the projector. */
export function readStandings(request: Request, id: string, assignment: string): Promise<Response> {
  return answer(request, async () => {
    const db = await database()
    const [found, given] = await Promise.all([getClass(db, id), getAssignment(db, id, assignment)])
    return found && given ? jsonAnswer(await standings(db, found.name, given, null)) : nothingAnswer()
  })
}

/** GET: every hand-in with its scores, as CSV. */
export function handInsCsv(request: Request, id: string, assignment: string): Promise<Response> {
  return answer(request, async () => {
    const db = await database()
    const given = await getAssignment(db, id, assignment)
    if (!given) return nothingAnswer()
    const { levels } = given.exercise
    const rows = await listHandIns(db, assignment)
    const byLevel = (text: string | null, of: (score: unknown) => Score) =>
      levels.map((_, i) => (text === null ? '' : of(JSON.parse(text)).levels[i].points))
    const head = [
      'hand-in',
      'student',
      'made-up name',
      'time',
      'state',
      'points',
      'points on the hidden seed',
    ]
    const csv = writeCsv(
      [
        ...head,
        ...levels.map((level) => level.name),
        ...levels.map((level) => `${level.name}, hidden seed`),
        'why not scored',
        'handed in',
      ],
      rows.map((row) => [
        row.id,
        row.student,
        row.madeUp,
        row.at.toISOString(),
        row.state,
        row.openPoints ?? '',
        row.hiddenPoints ?? '',
        ...byLevel(row.open, (score) => (score as { score: Score }).score),
        ...byLevel(row.hidden, (score) => score as Score),
        row.problems === null ? '' : problemText(JSON.parse(row.problems) as Problem[]),
        row.content,
      ]),
    )
    return new Response(csv, {
      headers: {
        'content-type': 'text/csv; charset=utf-8',
        'content-disposition': 'attachment; filename="hand-ins.csv"',
        'cache-control': 'no-store',
      },
    })
  })
}

function problemText(problems: readonly Problem[]): string {
  return problems.map(({ place, cause }) => `${place}: ${cause}`).join(' ')
}

/** POST: a new token for the instructor’s own programs, which reach all that the instructor does. @returns `{token}` */
export function createToken(request: Request): Promise<Response> {
  return answer(request, async () => {
    const { token, kept } = newToken()
    await keepSetting(await database(), 'owner-token', kept)
    return jsonAnswer({ token }, 201)
  })
}

/** GET: what was changed for a class, by whom. */
export function readAudit(request: Request, id: string): Promise<Response> {
  return answer(request, async () => jsonAnswer(await auditOf(await database(), id)))
}
