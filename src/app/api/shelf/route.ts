import { add, take } from '../../../server/http/shelf'

export const dynamic = 'force-dynamic'

export function GET(request: Request) {
  return take(request)
}

export function POST(request: Request) {
  return add(request)
}
