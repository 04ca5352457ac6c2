import { patch, put, remove } from '../../../../../server/http/following'

interface Context {
  params: Promise<{ id: string }>
}

export async function PUT(request: Request, { params }: Context) {
  return put(request, (await params).id)
}

export async function PATCH(request: Request, { params }: Context) {
  return patch(request, (await params).id)
}

export async function DELETE(request: Request, { params }: Context) {
  return remove(request, (await params).id)
}
