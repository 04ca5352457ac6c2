import { readText } from '../../../../../server/http/environments'

export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return readText(request, (await params).id)
}
