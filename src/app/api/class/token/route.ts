import { createToken } from '../../../../server/http/student'

export function POST(request: Request) {
  return createToken(request)
}
