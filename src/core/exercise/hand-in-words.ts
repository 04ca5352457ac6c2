import type { Accepted } from './exercise'

/** What students read of each way to hand in. */
export const HAND_IN_WORDS: Readonly<
  Record<
    Accepted,
    {
      readonly title: string
      /** What a file with it looks like, in a sentence; null where it is none. */
      readonly file: string | null
    }
  >
> = {
  policy: {
    title: 'a policy, state by state',
    file: 'A policy as CSV with the columns state and action, or as JSON: {"state": "action", …}.',
  },
  table: {
    title: 'a learned table',
    file: 'A learned table, as Learn exports it (.json).',
  },
  rule: {
    title: 'a rule of the rulebook language',
    file: 'A rule as text: policy "mine": …',
  },
  program: {
    title: 'a program that plays',
    file: null,
  },
}

/** Ways to hand in, in a sentence. */
export function handInWords(kinds: readonly Accepted[]): string {
  return kinds.map((kind) => HAND_IN_WORDS[kind].title).join(', or ')
}
