import { addressWith } from '../address'
import { keepLink } from '../api/lessons'
import type { Study } from '../study/study'
import { LINK } from './link'
import { takeScene } from './take-scene'

/** An address that opens what is on the screen now; it is kept with the environment. */
export async function linkToView(parts: Study, here: string): Promise<string> {
  const id = await keepLink(parts.study.getState().id, takeScene(parts))
  return addressWith(here, LINK, id)
}
