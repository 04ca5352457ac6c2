import { sql } from 'drizzle-orm'
import { PROGRAM } from '../../core/program'
import { database } from '../db/database'
import { answer, jsonAnswer } from './answers'

/** GET: whether the server can do its work; 503 with the reason where it cannot. */
export function health(request: Request): Promise<Response> {
  return answer(request, async () => {
    await (await database()).run(sql`select 1 from environments limit 1`)
    return jsonAnswer({ status: 'ok', program: PROGRAM })
  })
}
