import { change, read, remove } from '../../../../server/http/classes'

interface Context {
  params: Promise<{ id: string }>
}

export async function GET(request: Request, { params }: Context) {
  return read(request, (await params).id)
}

export async function PATCH(request: Request, { params }: Context) {
  return change(request, (await params).id)
}

export async function DELETE(request: Request, { params }: Context) {
  return remove(request, (await params).id)
}
