import type { HandInKind } from './hand-in'

/** What students read of each kind of hand-in. */
export const HAND_IN_WORDS: Readonly<
  Record<
    HandInKind,
    {
      readonly title: string
      /** What a file with it looks like, in a sentence. */
      readonly file: string
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
}

/** Kinds of hand-ins in a sentence. */
export function handInWords(kinds: readonly HandInKind[]): string {
  return kinds.map((kind) => HAND_IN_WORDS[kind].title).join(', or ')
}
