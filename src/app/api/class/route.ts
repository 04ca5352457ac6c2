import { home } from '../../../server/http/student'

export const dynamic = 'force-dynamic'

export function GET(request: Request) {
  return home(request)
}
