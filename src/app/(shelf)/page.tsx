import { database } from '../../server/db/database'
import { listLessons } from '../../server/repositories/lessons'
import { countShelf, listEnvironments } from '../../server/repositories/shelf-list'
import { SHELF_PAGE } from '../../ui/shelf/page-size'
import { Shelf } from '../../ui/shelf/Shelf'

export const dynamic = 'force-dynamic'

interface Props {
  searchParams: Promise<{ find?: string | string[]; show?: string | string[] }>
}

export default async function ShelfPage({ searchParams }: Props) {
  const { find: asked = '', show } = await searchParams
  const find = String(asked).trim().slice(0, 120)
  const limit = Math.max(SHELF_PAGE, Math.floor(Number(show)) || 0)
  const db = await database()
  const [environments, lessons, count, all] = await Promise.all([
    listEnvironments(db, { find, limit }),
    listLessons(db),
    countShelf(db, find),
    countShelf(db),
  ])
  return <Shelf environments={environments} lessons={lessons} find={find} count={count} all={all} />
}
