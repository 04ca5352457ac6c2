import type { Role } from './caller'

const ANYONE: readonly Role[] = ['anyone']
const OWNER: readonly Role[] = ['owner']
const STUDENT: readonly Role[] = ['student']
const PROGRAM: readonly Role[] = ['program']

/**
 * Who may call what: every page and every route of the folder `app`, as it is called there. What does not stand here is the
 * owner's; a test holds the list to the folder.
 */
export const ROUTES = {
  '/': OWNER,
  '/bin': OWNER,
  '/environment/[id]/[[...stage]]': OWNER,
  '/environment/[id]/report': OWNER,
  '/lesson/[id]': OWNER,
  '/lesson/[id]/present': OWNER,
  '/lesson/[id]/print': OWNER,
  '/lesson/[id]/speaker': OWNER,
  '/api/bin': OWNER,
  '/api/bin/[kind]/[item]': OWNER,
  '/api/checkpoints': OWNER,
  '/api/checkpoints/[checkpoint]': OWNER,
  '/api/comparisons/[comparison]': OWNER,
  '/api/environments': OWNER,
  '/api/environments/[id]': OWNER,
  '/api/environments/[id]/checkpoints': OWNER,
  '/api/environments/[id]/comparisons': OWNER,
  '/api/environments/[id]/duplicate': OWNER,
  '/api/environments/[id]/jobs': OWNER,
  '/api/environments/[id]/links': OWNER,
  '/api/environments/[id]/picture': OWNER,
  '/api/environments/[id]/restore': OWNER,
  '/api/environments/[id]/text': OWNER,
  '/api/environments/[id]/variant': OWNER,
  '/api/environments/[id]/versions': OWNER,
  '/api/environments/[id]/versions/[version]': OWNER,
  '/api/hand-out': OWNER,
  '/api/jobs': OWNER,
  '/api/jobs/[job]': OWNER,
  '/api/jobs/[job]/results': OWNER,
  '/api/lessons': OWNER,
  '/api/lessons/[lesson]': OWNER,
  '/api/lessons/[lesson]/versions': OWNER,
  '/api/lessons/[lesson]/versions/[version]': OWNER,
  '/api/shelf': OWNER,

  // Says that the server answers, and nothing of what is on it.
  '/api/health': ANYONE,
  // What files look like: the same everywhere, and in docs/.
  '/api/schemas/[name]': ANYONE,
  '/icon.svg': ANYONE,
  '/_next/static/[...file]': ANYONE,

  '/enter': ANYONE,
  '/api/enter': ANYONE,
  '/join/[[...code]]': ANYONE,
  '/api/join': ANYONE,

  '/class': STUDENT,
  '/class/exercise/[assignment]': STUDENT,
  '/api/class': STUDENT,
  '/class/follow': STUDENT,
  '/api/class/events': STUDENT,
  '/api/class/following/[document]': STUDENT,
  '/api/class/questions/[question]': STUDENT,
  '/api/class/token': STUDENT,
  '/api/class/exercises/[assignment]': STUDENT,
  '/api/class/exercises/[assignment]/picture': STUDENT,
  '/api/class/exercises/[assignment]/playing': STUDENT,
  '/api/class/exercises/[assignment]/hand-ins': STUDENT,
  '/api/class/exercises/[assignment]/standings': STUDENT,

  // docs/protocol.md
  '/api/play': PROGRAM,
  '/api/play/sessions': PROGRAM,
  '/api/play/sessions/[session]': PROGRAM,
  '/api/play/sessions/[session]/steps': PROGRAM,
  '/api/play/hand-ins': PROGRAM,
  '/api/play/hand-ins/[handIn]': PROGRAM,
  '/api/play/hand-ins/[handIn]/parts': PROGRAM,

  '/classes': OWNER,
  '/classes/[id]': OWNER,
  '/classes/[id]/log': OWNER,
  '/classes/[id]/question/[question]': OWNER,
  '/classes/[id]/standings/[assignment]': OWNER,
  '/exercise/[id]': OWNER,
  '/api/classes': OWNER,
  '/api/classes/[id]': OWNER,
  '/api/classes/[id]/assignments': OWNER,
  '/api/classes/[id]/assignments/[assignment]': OWNER,
  '/api/classes/[id]/assignments/[assignment]/hand-ins': OWNER,
  '/api/classes/[id]/assignments/[assignment]/standings': OWNER,
  '/api/classes/[id]/audit': OWNER,
  '/api/classes/[id]/following': OWNER,
  '/api/classes/[id]/questions': OWNER,
  '/api/classes/[id]/questions/[question]': OWNER,
  '/api/classes/[id]/students/[student]': OWNER,
  '/api/token': OWNER,
  '/api/exercises': OWNER,
  '/api/exercises/[exercise]': OWNER,
} as const satisfies Readonly<Record<string, readonly Role[]>>

/** An id, a name or a number in an address. Students write none that needs more signs. */
const PART = '[A-Za-z0-9._-]+'

const PATTERNS = Object.entries(ROUTES).map(([route, roles]) => ({
  roles: roles as readonly Role[],
  pattern: patternOf(route),
}))

/** What addresses of a route look like. */
function patternOf(route: string): RegExp {
  const source = route
    .replace(/[.]/g, '\\$&')
    .replace(/\/\[\[\\\.\\\.\\\.\w+\]\]/, `(?:/${PART})*`)
    .replace(/\/\[\\\.\\\.\\\.\w+\]/, '(?:/[^/?#]+)+')
    .replace(/\[\w+\]/g, PART)
  return new RegExp(`^${source}$`)
}

/** What could make another address of one: no page and no program of ours writes it. */
const TRICKS = /%2e|%2f|%5c|\\|\/\.|\/\//i

/** Who may call what is at a path, as it was sent: only the owner, where the list does not say otherwise. */
export function whoMayCall(path: string): readonly Role[] {
  if (TRICKS.test(path)) return OWNER
  return PATTERNS.find(({ pattern }) => pattern.test(path))?.roles ?? OWNER
}
