import { readAudit } from '../../../../../server/http/classes'

interface Context {
  params: Promise<{ id: string }>
}

export async function GET(request: Request, { params }: Context) {
  return readAudit(request, (await params).id)
}
