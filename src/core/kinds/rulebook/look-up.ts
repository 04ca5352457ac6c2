import { listNames } from '../../problem'
import { RuleFault, type Span } from './place'
import { derived, joinTypes, typeName, UNKNOWN, type ListValue, type Scalar, type Value } from './values'

/** Where an index stands, and who is told what is wrong there. */
export interface IndexPlace extends Span {
  tell(cause: string, remedy: string): Scalar
  /** How a word is written. */
  wordText(word: number): string
}

/** An item of a list, a table or a named list; of a table of rows a row, which is a list. */
export function lookedUp(list: ListValue, index: Scalar, place: IndexPlace): Value {
  const { rows } = list
  if (!rows) return oneOf(list, index, place)
  const [{ items: first, ...shape }] = rows
  const { rows: _rows, ...named } = list
  const items: Scalar[] = []
  let told = false
  const once: IndexPlace = {
    ...place,
    tell: (...fault) => {
      told = true
      return place.tell(...fault)
    },
  }
  for (let column = 0; column < first.length; column++) {
    items.push(oneOf({ ...named, items: rows.map((row) => row.items[column]) }, index, once))
    // A fault would be told again for every column.
    if (told) return UNKNOWN
  }
  return { ...shape, items }
}

/** A place in a list of so many items, counted from 1; checked where it can be outside. */
export function placeWithin(
  index: Scalar,
  length: number,
  { from, to, tell }: Pick<IndexPlace, 'from' | 'to' | 'tell'>,
): Scalar {
  const { low, high } = index.type.kind === 'number' ? index.type : { low: -Infinity, high: Infinity }
  if (high < 1 || low > length)
    return tell(`The list has the places 1 to ${length}.`, `Give a place from 1 to ${length}.`)
  if (low >= 1 && high <= length) return index
  const run = index.run
  return derived(index.type, [index], (frame) => {
    const at = run(frame)
    if (at >= 1 && at <= length) return at
    throw new RuleFault({
      from,
      to,
      cause: `The place is ${at}, the list has the places 1 to ${length}.`,
      remedy: 'Guard it with if … then … else …',
    })
  })
}

function oneOf(list: ListValue, index: Scalar, place: IndexPlace): Scalar {
  if (index.type.kind === 'unknown') return UNKNOWN
  if (list.words) return byWord(list, list.words, index, place)
  if (index.type.kind !== 'number')
    return place.tell(`This is ${typeName(index)}, not a number.`, 'Use a number here.')
  return list.places ? byNumber(list, list.places, index, place) : byPlace(list, index, place)
}

function byWord(list: ListValue, words: readonly number[], index: Scalar, place: IndexPlace): Scalar {
  if (index.type.kind !== 'word')
    return place.tell(`This table is read by words, not by ${typeName(index)}.`, 'Give a word.')
  const missing = index.type.words.filter((word) => !words.includes(word)).map((word) => place.wordText(word))
  if (missing.length)
    return place.tell(
      `The table has no entry for ${listNames(missing)}, which can stand here.`,
      `Add ${missing.map((word) => `${word} = …`).join(', ')} to the table.`,
    )
  const places = new Map(words.map((word, i) => [word, i]))
  const runs = list.items.map((item) => item.run)
  return derived(itemsType(list), [...list.items, index], (frame) =>
    runs[places.get(index.run(frame))!](frame),
  )
}

function byNumber(
  list: ListValue,
  places: readonly number[],
  index: Scalar,
  { from, to, tell }: IndexPlace,
): Scalar {
  const at = new Map(places.map((number, i) => [number, i]))
  const cause = (wanted: number) =>
    `There is nothing named ${wanted}: the names are ${listNames(places.map(String))}.`
  const remedy = 'Guard it with if … then … else …, or name one more.'
  if (index.constant !== undefined)
    return list.items[at.get(index.constant) ?? -1] ?? tell(cause(index.constant), remedy)
  const runs = list.items.map((item) => item.run)
  return derived(itemsType(list), [...list.items, index], (frame) => {
    const wanted = index.run(frame)
    const run = runs[at.get(wanted) ?? -1]
    if (run === undefined) throw new RuleFault({ from, to, cause: cause(wanted), remedy })
    return run(frame)
  })
}

function byPlace(list: ListValue, index: Scalar, { from, to, tell }: IndexPlace): Scalar {
  const { type } = index
  if (type.kind !== 'number') return UNKNOWN
  const first = list.first ?? 1
  const last = first + list.items.length - 1
  if (!type.whole) return tell('This need not be a whole number.', 'Use round, floor or ceil.')
  if (type.high < first || type.low > last)
    return tell(
      `The places are ${first} to ${last}, this is ${type.low}${type.low === type.high ? '' : ` to ${type.high}`}.`,
      `Give a place from ${first} to ${last}.`,
    )
  if (index.constant !== undefined) return list.items[index.constant - first]
  const runs = list.items.map((item) => item.run)
  return derived(itemsType(list), [...list.items, index], (frame) => {
    const at = index.run(frame)
    const run = runs[at - first]
    if (run === undefined)
      throw new RuleFault({
        from,
        to,
        cause: `The place is ${at}, there are ${first} to ${last}.`,
        remedy: 'Guard it with if … then … else …, or make the table longer.',
      })
    return run(frame)
  })
}

function itemsType(list: ListValue): Scalar['type'] {
  return list.items.map((item) => item.type).reduce((one, other) => joinTypes(one, other) ?? one)
}
