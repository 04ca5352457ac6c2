import { create } from '../../../server/http/hand-out'

export async function POST(request: Request) {
  return create(request)
}
