import { addressWith } from '../address'
import { keepLink } from '../api/lessons'
import { COMPARISON } from '../compare/comparison-link'
import type { Study } from '../study/study'
import { LINK } from './link'
import { takeScene } from './take-scene'

/** An address that opens what is on the screen now; it is kept with the environment, as are comparisons. */
export async function linkToView(parts: Study, here: string): Promise<string> {
  const { study, compare } = parts
  const { id, stage } = study.getState()
  const view = await keepLink(id, takeScene(parts))
  if (stage !== 'compare') return addressWith(here, { [LINK]: view })
  await compare.shelf.save()
  const comparison = compare.shelf.store.getState().id
  return addressWith(here, { [LINK]: view, ...(comparison ? { [COMPARISON]: comparison } : {}) })
}
