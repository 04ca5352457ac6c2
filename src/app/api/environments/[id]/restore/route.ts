import { restore } from '../../../../../server/http/environments'

export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return restore(request, (await params).id)
}
