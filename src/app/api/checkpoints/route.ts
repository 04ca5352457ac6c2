import { list } from '../../../server/http/checkpoints'

export const dynamic = 'force-dynamic'

export function GET(request: Request) {
  return list(request)
}
