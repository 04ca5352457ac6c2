import { randomInt } from 'node:crypto'

// Things of the museum at night.
const HOW = [
  'Brass',
  'Quiet',
  'Early',
  'Polished',
  'Tall',
  'Blue',
  'Dusty',
  'Bright',
  'Patient',
  'Swift',
  'Round',
  'Amber',
  'Nimble',
  'Stray',
  'Steady',
  'Velvet',
  'Silver',
  'Lost',
  'Merry',
  'Wide',
] as const
const WHAT = [
  'Lantern',
  'Vase',
  'Clock',
  'Heron',
  'Key',
  'Marble',
  'Moth',
  'Fresco',
  'Globe',
  'Sundial',
  'Ticket',
  'Cloak',
  'Dial',
  'Urn',
  'Comet',
  'Beetle',
  'Harp',
  'Mosaic',
  'Owl',
  'Compass',
  'Lute',
  'Fossil',
  'Banner',
  'Crystal',
] as const

/** A name that nobody has yet. */
export function madeUpName(taken: ReadonlySet<string>): string {
  const names = HOW.flatMap((how) => WHAT.map((what) => `${how} ${what}`)).filter((name) => !taken.has(name))
  // More than a class takes, but one that was put out and entered again may use them up.
  return names.length ? names[randomInt(names.length)] : `Visitor ${taken.size}`
}
