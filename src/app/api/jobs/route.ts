import { list } from '../../../server/http/jobs'

export const dynamic = 'force-dynamic'

export function GET() {
  return list()
}
