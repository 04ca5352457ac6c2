import { hash, verify } from '@node-rs/argon2'
import { refuse } from '../../core/problem'
import type { Database } from '../db/schema'
import { keepSetting, keptSetting } from './kept-settings'

/** Characters of a pass phrase. */
export const SHORTEST = 8
const LONGEST = 200

/** @throws ProblemError for one that is too short or too long */
export async function setPassPhrase(db: Database, phrase: string): Promise<void> {
  if (phrase.length < SHORTEST || phrase.length > LONGEST)
    refuse(
      'pass phrase',
      `It has ${phrase.length} characters.`,
      `Choose ${SHORTEST} to ${LONGEST} characters, for example four unrelated words.`,
    )
  // Argon2id with what the package suggests (19 MB, 2 passes).
  await keepSetting(db, 'pass-phrase', await hash(phrase))
}

export async function hasPassPhrase(db: Database): Promise<boolean> {
  return (await keptSetting(db, 'pass-phrase')) !== undefined
}

export async function isPassPhrase(db: Database, phrase: string): Promise<boolean> {
  const kept = await keptSetting(db, 'pass-phrase')
  return kept !== undefined && phrase.length <= LONGEST && verify(kept, phrase)
}

/**
 * Sees to it that there is a pass phrase: the one that was told, or one that is asked for where none is kept.
 * @param ask  asks for one in the terminal; null where nobody sits there
 * @throws ProblemError where there is none
 */
export async function needPassPhrase(
  db: Database,
  told: string | undefined,
  ask: (() => Promise<string>) | null,
): Promise<void> {
  if (told !== undefined) {
    // The same one again leaves everybody who knows it where they are.
    if (!(await isPassPhrase(db, told))) await setPassPhrase(db, told)
    return
  }
  if (await hasPassPhrase(db)) return
  if (!ask)
    refuse(
      'pass phrase',
      'Other machines can reach this server, and no pass phrase is set.',
      'Set JAUNTY_PAWN_PASSPHRASE, or start the server once in a terminal: it asks for one.',
    )
  await setPassPhrase(db, await ask())
}
