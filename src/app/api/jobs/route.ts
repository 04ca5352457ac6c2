import { list } from '../../../server/http/jobs'

export const dynamic = 'force-dynamic'

export function GET(request: Request) {
  return list(request)
}
