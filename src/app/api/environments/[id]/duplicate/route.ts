import { duplicate } from '../../../../../server/http/environments'

export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return duplicate(request, (await params).id)
}
