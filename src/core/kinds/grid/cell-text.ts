import { refuse } from '../../problem'
import { aThing } from './check-grid'
import { DIRECTION_NAMES, type Direction } from './directions'
import type { Grid, Ground, ThingList } from './document'

/** What lies on one cell, in the lists of a grid but without the cell's name. */
export type CellThings = {
  readonly [L in ThingList]?: Omit<Grid[L][number], 'at'>
}

/** The words for a cell: `ending 10 charging cupboard`, `start 2; draught east 1 0.5`. */
export function writeThings(things: CellThings): string {
  const words: string[] = []
  const { starts, endings, bonuses, sendBacks, jumps, tokens, gates, draughts } = things
  if (starts) words.push(starts.weight === 1 ? 'start' : `start ${starts.weight}`)
  if (endings) words.push(`ending ${endings.reward}${named(endings.name)}`)
  if (bonuses) words.push(`bonus ${bonuses.reward} ${bonuses.once ? 'once' : 'always'}${named(bonuses.name)}`)
  if (sendBacks)
    words.push(
      `send-back ${sendBacks.reward}${sendBacks.to === null ? '' : ` to ${sendBacks.to}`}${named(sendBacks.name)}`,
    )
  if (jumps) words.push(`jump to ${jumps.to}`)
  if (tokens) words.push(`token ${tokens.reward}${named(tokens.name)}`)
  if (gates) words.push(`gate${named(gates.token)}`)
  if (draughts) words.push(`draught ${draughts.toward} ${draughts.strength} ${draughts.chance}`)
  return words.join('; ')
}

/** A name that would be read as something else is put in quotes. */
function named(name: string): string {
  if (name === '') return ''
  return ` ${/[;"\n\r,=]|^\s|\s$|^to\s/.test(name) ? JSON.stringify(name) : name}`
}

/** What a word says, with what stood before it kept. Gives back undefined where it is no thing. */
export function readThings(text: string, place: string): { things: CellThings; rest: string[] } {
  const things: { -readonly [L in ThingList]?: CellThings[L] } = {}
  const rest: string[] = []
  for (const item of splitItems(text)) {
    const [word] = item.split(/\s/, 1)
    const reader = READERS[word.toLowerCase()]
    if (!reader) {
      rest.push(item)
      continue
    }
    const [list, thing] = reader(item.slice(word.length).trim(), place)
    if (things[list]) refuse(place, `It has two of a kind: ${item}.`, `Keep ${aThing(list)} at most.`)
    things[list] = thing as never
  }
  return { things, rest }
}

type Reader = (text: string, place: string) => [ThingList, object]

const READERS: Readonly<Record<string, Reader | undefined>> = {
  start: (text, place) => ['starts', { weight: text === '' ? 1 : number(text, place, 'the weight') }],
  ending: (text, place) => {
    const { value, rest } = leading(text, place, 'ending 10 charging cupboard')
    return ['endings', { reward: value, name: unquoted(rest, place) }]
  },
  bonus: (text, place) => {
    const { value, rest } = leading(text, place, 'bonus 5 once')
    const [how = '', name = ''] = cut(rest)
    if (how !== '' && how !== 'once' && how !== 'always')
      refuse(
        place,
        `A bonus pays “once” or “always”, not “${how}”.`,
        'Write bonus 5 once, or bonus 5 always.',
      )
    return ['bonuses', { reward: value, once: how !== 'always', name: unquoted(name, place) }]
  },
  'send-back': (text, place) => {
    const { value, rest } = leading(text, place, 'send-back -5 to A1')
    const to = /^to\s+([A-Z]{1,3}\d{1,5})(\s+|$)/i.exec(rest)
    return [
      'sendBacks',
      {
        reward: value,
        to: to ? to[1].toUpperCase() : null,
        name: unquoted(to ? rest.slice(to[0].length) : rest, place),
      },
    ]
  },
  jump: (text, place) => {
    const to = /^to\s+([A-Z]{1,3}\d{1,5})$/i.exec(text)
    if (!to) return refuse(place, `A jump leads to a cell, not “${text}”.`, 'Write jump to C4.')
    return ['jumps', { to: to[1].toUpperCase() }]
  },
  token: (text, place) => {
    const first = /^[+-]?[\d.]+(e[+-]?\d+)?(\s|$)/i.exec(text)
    const { value, rest } = first ? leading(text, place, 'token 0 key') : { value: 0, rest: text }
    const name = unquoted(rest, place)
    if (!name) refuse(place, 'The token has no name.', 'Write token 0 key.')
    return ['tokens', { name, reward: value }]
  },
  gate: (text, place) => {
    const token = unquoted(text, place)
    if (!token) refuse(place, 'The gate names no token.', 'Write gate key.')
    return ['gates', { token }]
  },
  draught: (text, place) => {
    const [toward = '', strength = '1', chance = '1'] = text.split(/\s+/)
    if (!(DIRECTION_NAMES as readonly string[]).includes(toward))
      refuse(place, `“${toward}” is no direction.`, `Write one of ${DIRECTION_NAMES.join(', ')}.`)
    return [
      'draughts',
      {
        toward: toward as Direction,
        strength: number(strength, place, 'the strength'),
        chance: number(chance, place, 'the chance'),
      },
    ]
  },
}

/** The ground an item names: by symbol, name, or `ground carpet`. */
export function groundNamed(item: string, grounds: readonly Ground[]): Ground | undefined {
  const name = item.replace(/^ground\s+/i, '')
  return (
    grounds.find(({ symbol }) => symbol === item) ??
    grounds.find((ground) => ground.name.toLowerCase() === name.toLowerCase())
  )
}

/** Items are parted by semicolons, which do not count inside quotes. */
function splitItems(text: string): string[] {
  const items = text.match(/(?:"(?:[^"\\]|\\.)*"|[^;"]|")+/g) ?? []
  return items.map((item) => item.trim()).filter((item) => item !== '')
}

function leading(text: string, place: string, example: string): { value: number; rest: string } {
  const [first = '', rest = ''] = cut(text)
  if (first === '') refuse(place, 'A reward is missing.', `Write ${example}.`)
  return { value: number(first, place, 'the reward'), rest }
}

/** The first word, and what follows it. */
function cut(text: string): [string?, string?] {
  const match = /^(\S+)\s*([\s\S]*)$/.exec(text)
  return match ? [match[1], match[2]] : []
}

function number(text: string, place: string, what: string): number {
  const value = /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(text) ? Number(text) : NaN
  return Number.isFinite(value)
    ? value
    : refuse(place, `“${text.slice(0, 40)}” is not a number.`, `Write ${what} with a decimal point.`)
}

function unquoted(text: string, place: string): string {
  if (!text.startsWith('"')) return text
  try {
    return String(JSON.parse(text))
  } catch {
    return refuse(place, `The quotes in ${text.slice(0, 40)} are not closed.`, 'Close them.')
  }
}
