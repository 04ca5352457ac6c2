import type { Lesson } from '../../core/lesson/lesson-document'
import type { Scene } from '../../core/lesson/scene'
import type { VersionSummary } from '../../server/contract/environments'
import type { LessonRecord, LessonSummary } from '../../server/contract/lessons'
import { put, send } from './send'

const ROOT = '/api/lessons'

/** Where lessons are kept; tests bring their own. */
export interface LessonStore {
  list(): Promise<LessonSummary[]>
  create(lesson: Lesson): Promise<LessonRecord>
  read(id: string): Promise<LessonRecord>
  /** @returns the new revision. @throws StaleError where it was changed elsewhere */
  write(id: string, revision: number, lesson: Lesson): Promise<number>
  remove(id: string): Promise<void>
  versions(id: string): Promise<VersionSummary[]>
  keepVersion(id: string, name: string): Promise<void>
  readVersion(id: string, version: string): Promise<Lesson>
}

export const serverLessons: LessonStore = {
  list: async () => (await send(ROOT)).json(),
  create: async (lesson) => (await send(ROOT, { method: 'POST', body: JSON.stringify(lesson) })).json(),
  read: async (id) => (await send(`${ROOT}/${id}`)).json(),
  write: async (id, revision, lesson) =>
    ((await (await put(`${ROOT}/${id}`, { revision, lesson })).json()) as { revision: number }).revision,
  async remove(id) {
    await send(`${ROOT}/${id}`, { method: 'DELETE' })
  },
  versions: async (id) => (await send(`${ROOT}/${id}/versions`)).json(),
  async keepVersion(id, name) {
    await send(`${ROOT}/${id}/versions`, { method: 'POST', body: JSON.stringify({ name }) })
  },
  readVersion: async (id, version) => (await send(`${ROOT}/${id}/versions/${version}`)).json(),
}

/** A short name for what is on the screen of an environment. */
export async function keepLink(environment: string, scene: Scene): Promise<string> {
  const answer = await send(`/api/environments/${environment}/links`, {
    method: 'POST',
    body: JSON.stringify(scene),
  })
  return ((await answer.json()) as { id: string }).id
}
