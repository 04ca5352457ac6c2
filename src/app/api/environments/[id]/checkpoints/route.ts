import { keep } from '../../../../../server/http/checkpoints'

interface Context {
  params: Promise<{ id: string }>
}

export async function POST(request: Request, { params }: Context) {
  return keep(request, (await params).id)
}
