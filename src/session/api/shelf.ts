import { send } from './send'

/** Where the whole shelf can be had as a zip. */
export const SHELF_ARCHIVE = '/api/shelf'

/** Puts what an archive holds on the shelf, beside what is there. @returns how many environments */
export async function importShelf(archive: Blob): Promise<number> {
  const answer = await send(SHELF_ARCHIVE, {
    method: 'POST',
    body: archive,
    headers: { 'content-type': 'application/zip' },
  })
  return ((await answer.json()) as { environments: number }).environments
}
