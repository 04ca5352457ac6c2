import { create, list } from '../../../server/http/environments'

export const dynamic = 'force-dynamic'

export function GET() {
  return list()
}

export function POST(request: Request) {
  return create(request)
}
