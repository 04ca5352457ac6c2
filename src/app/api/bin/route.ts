import { list } from '../../../server/http/bin'

export const dynamic = 'force-dynamic'

export function GET(request: Request) {
  return list(request)
}
