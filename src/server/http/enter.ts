import Joi from 'joi'
import { countFor, takeBack, type LimitName } from '../access/limits'
import { isPassPhrase } from '../access/pass-phrase'
import { endedCookie, generationOf, sessionCookie } from '../access/sessions'
import { database } from '../db/database'
import { codeFrom, enterClass } from '../repositories/classes'
import { answer, emptyAnswer, problemAnswer, readJson, SMALL_BODY } from './answers'
import { checkedBody } from './bodies'
import { addressOf, isSecure } from './origin'

const phraseBody = Joi.object({ phrase: Joi.string().max(1000).required() }).required()
const joinBody = Joi.object({
  code: Joi.string().max(100).required(),
  name: Joi.string().max(40).allow('').required(),
}).required()

/** POST: `{phrase}`: the instructor says the pass phrase. */
export function enter(request: Request): Promise<Response> {
  return answer(request, async () => {
    const { phrase } = checkedBody<{ phrase: string }>(phraseBody, await readJson(request, SMALL_BODY))
    const guesses = guessesOf('phrase', 'phraseOfAll', addressOf(request))
    const wait = await guesses.count()
    if (wait) return waitAnswer('pass phrase', wait)
    const db = await database()
    if (!(await isPassPhrase(db, phrase)))
      return problemAnswer(403, {
        place: 'pass phrase',
        cause: 'It is not the right one.',
        remedy: 'Try again. A new one can be set on the server with: npm run pawn passphrase',
      })
    await guesses.takeBack()
    return withCookie(await sessionCookie(db, 'owner', await generationOf(db), isSecure(request)))
  })
}

/** DELETE: the instructor leaves this browser. */
export function leave(request: Request): Promise<Response> {
  return answer(request, async () => withCookie(endedCookie('owner', isSecure(request))))
}

/** POST: `{code, name}`: a student enters a class. */
export function join(request: Request): Promise<Response> {
  return answer(request, async () => {
    const { code, name } = checkedBody<{ code: string; name: string }>(
      joinBody,
      await readJson(request, SMALL_BODY),
    )
    const address = addressOf(request)
    const guesses = guessesOf('code', 'codeOfAll', address)
    const wait = (await guesses.count()) || (await countFor('entering', address))
    if (wait) return waitAnswer('class code', wait)
    const db = await database()
    const student = await enterClass(db, codeFrom(code), name.trim().replace(/\s+/g, ' ')).catch(
      // The code is right, but the name is taken, or the class is full.
      async (error: unknown) => {
        await guesses.takeBack()
        throw error
      },
    )
    if (student === undefined)
      return problemAnswer(404, {
        place: 'class code',
        cause: 'No class has this code now.',
        remedy: 'Look at the board again: it has six letters and numbers.',
      })
    await guesses.takeBack()
    return withCookie(await sessionCookie(db, 'student', student, isSecure(request)))
  })
}

/** DELETE: a student leaves this browser. */
export function leaveClass(request: Request): Promise<Response> {
  return answer(request, async () => withCookie(endedCookie('student', isSecure(request))))
}

/** Guesses from an address, and from everywhere: each is counted before it is looked at, as many may come at once. */
function guessesOf(ofOne: LimitName, ofAll: LimitName, address: string) {
  return {
    /** @returns the seconds one has to wait; 0 for none */
    count: async () => (await countFor(ofOne, address)) || countFor(ofAll, 'all'),
    takeBack: () => Promise.all([takeBack(ofOne, address), takeBack(ofAll, 'all')]),
  }
}

function waitAnswer(place: string, wait: number): Response {
  return problemAnswer(429, {
    place,
    cause: 'Too many attempts.',
    remedy: `Wait ${wait} s, then try again.`,
  })
}

function withCookie(cookie: string): Response {
  const response = emptyAnswer()
  response.headers.set('set-cookie', cookie)
  return response
}
