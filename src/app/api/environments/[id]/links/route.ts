import { create } from '../../../../../server/http/links'

interface Context {
  params: Promise<{ id: string }>
}

export async function POST(request: Request, { params }: Context) {
  return create(request, (await params).id)
}
