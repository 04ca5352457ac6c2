// Loaded when a file is brought here.
import { endingOf } from '../../core/environment/ending'
import { readEnvironment } from '../../core/environment/read'
import { decodeText } from '../../core/formats/text'
import { createEnvironment } from '../../session/api/environments'
import { importShelf } from '../../session/api/shelf'
import { importLesson } from './lesson-actions'

/**
 * Puts what a file holds on the shelf: a whole shelf, a lesson, or an environment in any of its forms.
 * @returns the address of what came of it; null for a whole shelf
 */
export async function putFile(chosen: File): Promise<string | null> {
  if (/\.zip$/i.test(chosen.name)) {
    await importShelf(chosen)
    return null
  }
  const text = decodeText(new Uint8Array(await chosen.arrayBuffer()))
  const lesson = await importLesson(text)
  if (lesson) return `/lesson/${lesson}`
  const name = chosen.name.replace(/\.[^.]*$/, '')
  const document = readEnvironment(text, name, endingOf(chosen.name))
  return `/environment/${(await createEnvironment(JSON.stringify(document))).id}/build`
}
