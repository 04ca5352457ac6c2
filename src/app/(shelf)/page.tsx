import { database } from '../../server/db/database'
import { listEnvironments } from '../../server/repositories/environments'
import { Shelf } from '../../ui/shelf/Shelf'

export const dynamic = 'force-dynamic'

export default async function ShelfPage() {
  return <Shelf environments={await listEnvironments(await database())} />
}
