import type { DocumentOf } from '../../kind'
import { rulebookEnvironment } from '../blank'
import type { RulebookDocument } from '../document'
import { evenings } from './evenings'
import { helper } from './helper'
import { hidden } from './hidden'
import { luck } from './luck'
import { onTheWay } from './on-the-way'
import type { Pattern } from './pattern'
import { queue } from './queue'
import { twists } from './twists'
import { wear } from './wear'

/** The rulebooks to begin with, each once, in the order in which they are offered. */
export const PATTERNS: readonly Pattern[] = [onTheWay, queue, evenings, wear, hidden, helper, twists, luck]

/** An environment that begins with a pattern. What to change first stands in front of its rules. */
export function patternEnvironment(
  { title, text, discount, cap, change }: Pattern,
  name: string,
): DocumentOf<'rulebook', RulebookDocument> {
  return {
    ...rulebookEnvironment(name || title, `${text}\n# To change first: ${change.says}\n`),
    discount,
    cap,
  }
}
