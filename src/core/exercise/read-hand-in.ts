import Papa from 'papaparse'
import { plainName } from '../formats/csv'
import { decodeText } from '../formats/text'
import { CHECKPOINT_FORMAT } from '../learn/checkpoint'
import { checkCheckpoint } from '../learn/read-checkpoint'
import { refuse } from '../problem'
import type { HandIn } from './hand-in'

/** Bytes of a hand-in at the most. */
export const MOST_BYTES = 5_000_000

type Chances = Record<string, string | Record<string, number>>

/**
 * What a file hands in: JSON (a policy by state, or a learned table), CSV with the columns state, action and, where it is
 * not 1, chance, or a rule. Whether it fits the environment is told when it is played.
 * @throws ProblemError naming the place
 */
export function readHandIn(bytes: Uint8Array): HandIn {
  if (bytes.length > MOST_BYTES)
    refuse(
      'the file',
      `It has ${(bytes.length / 1e6).toFixed(1)} MB.`,
      `Up to ${MOST_BYTES / 1e6} MB are read.`,
    )
  const text = decodeText(bytes).trim()
  if (text.startsWith('{')) return fromJson(text)
  if (/^(#|policy\b)/.test(text)) return { kind: 'rule', text }
  return { kind: 'policy', policy: fromCsv(text) }
}

function fromJson(text: string): HandIn {
  let value: unknown
  try {
    value = JSON.parse(text)
  } catch {
    refuse('the file', 'It begins like JSON, but it is damaged.', 'Look for a missing comma, quote or brace.')
  }
  if ((value as { format?: unknown }).format === CHECKPOINT_FORMAT)
    return { kind: 'table', checkpoint: checkCheckpoint(value) }
  const { policy = value } = value as { policy?: unknown }
  return { kind: 'policy', policy: policy as Chances }
}

function fromCsv(text: string): Chances {
  const { data, meta, errors } = Papa.parse<Record<string, string>>(text, {
    header: true,
    skipEmptyLines: true,
  })
  const wrong = errors.find(({ code }) => code !== 'UndetectableDelimiter')
  if (wrong) refuse(`line ${(wrong.row ?? 0) + 2}`, `${wrong.message}.`, 'Check the quotes and commas.')
  for (const needed of ['state', 'action'])
    if (!meta.fields?.includes(needed))
      refuse(
        'line 1',
        `There is no column ${needed}.`,
        'A policy has the columns state and action, and may have chance.',
      )
  const policy = new Map<string, Map<string, number>>()
  data.forEach(({ state, action, chance: said = '1' }, i) => {
    const chance = said.trim() === '' ? NaN : Number(said)
    if (!(chance >= 0 && chance <= 1))
      refuse(`line ${i + 2}`, `The chance is "${said}".`, 'Write a number from 0 to 1.')
    const chances = policy.get(plainName(state)) ?? new Map<string, number>()
    const name = plainName(action)
    if (chances.has(name))
      refuse(`line ${i + 2}`, `"${name}" was named for "${state}" before.`, 'Take one of the lines away.')
    policy.set(plainName(state), chances.set(name, chance))
  })
  return Object.fromEntries([...policy].map(([state, chances]) => [state, Object.fromEntries(chances)]))
}
