import { list } from '../../../server/http/checkpoints'

export const dynamic = 'force-dynamic'

export function GET() {
  return list()
}
