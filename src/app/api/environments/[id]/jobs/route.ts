import { submit } from '../../../../../server/http/jobs'

interface Context {
  params: Promise<{ id: string }>
}

export async function POST(request: Request, { params }: Context) {
  return submit(request, (await params).id)
}
