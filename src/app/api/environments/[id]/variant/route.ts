import { makeVariant } from '../../../../../server/http/environments'

export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return makeVariant(request, (await params).id)
}
