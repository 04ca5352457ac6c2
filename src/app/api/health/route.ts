import { health } from '../../../server/http/health'

export const dynamic = 'force-dynamic'

export function GET(request: Request) {
  return health(request)
}
