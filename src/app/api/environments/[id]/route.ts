import { read, remove, rename, save } from '../../../../server/http/environments'

interface Context {
  params: Promise<{ id: string }>
}

export async function GET(_: Request, { params }: Context) {
  return read((await params).id)
}

export async function PUT(request: Request, { params }: Context) {
  return save((await params).id, request)
}

export async function PATCH(request: Request, { params }: Context) {
  return rename((await params).id, request)
}

export async function DELETE(_: Request, { params }: Context) {
  return remove((await params).id)
}
