import { change, read } from '../../../../server/http/classes'

interface Context {
  params: Promise<{ id: string }>
}

export async function GET(request: Request, { params }: Context) {
  return read(request, (await params).id)
}

export async function PATCH(request: Request, { params }: Context) {
  return change(request, (await params).id)
}
