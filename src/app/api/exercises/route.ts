import { create, list } from '../../../server/http/exercises'

export const dynamic = 'force-dynamic'

export function GET(request: Request) {
  return list(request)
}

export function POST(request: Request) {
  return create(request)
}
