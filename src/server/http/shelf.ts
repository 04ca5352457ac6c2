import { countLater } from '../counting'
import { database } from '../db/database'
import { packShelf, unpackShelf } from '../shelf-archive'
import { answer, jsonAnswer, readBytes } from './answers'

/** GET: the whole shelf as a zip. */
export function take(request: Request): Promise<Response> {
  return answer(request, async () => {
    const archive = await packShelf(await database())
    return new Response(archive as Uint8Array<ArrayBuffer>, {
      headers: {
        'content-type': 'application/zip',
        'content-disposition': `attachment; filename="shelf-${new Date().toISOString().slice(0, 10)}.zip"`,
        'cache-control': 'no-store',
      },
    })
  })
}

/** POST: a zip whose environments are put on the shelf, beside what is there. */
export function add(request: Request): Promise<Response> {
  return answer(request, async () => {
    const db = await database()
    const count = await unpackShelf(db, await readBytes(request))
    countLater(db)
    return jsonAnswer({ environments: count }, 201)
  })
}
