import { createToken } from '../../../server/http/classes'

export function POST(request: Request) {
  return createToken(request)
}
