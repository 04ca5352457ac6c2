import type { Metadata } from 'next'
import { database } from '../../server/db/database'
import { listBin } from '../../server/repositories/bin'
import { BinPage } from '../../ui/shelf/BinPage'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Bin' }

export default async function Bin() {
  return <BinPage items={await listBin(await database())} />
}
