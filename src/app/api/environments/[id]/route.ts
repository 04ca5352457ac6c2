import { read, remove, rename, save } from '../../../../server/http/environments'

interface Context {
  params: Promise<{ id: string }>
}

export async function GET(request: Request, { params }: Context) {
  return read(request, (await params).id)
}

export async function PUT(request: Request, { params }: Context) {
  return save(request, (await params).id)
}

export async function PATCH(request: Request, { params }: Context) {
  return rename(request, (await params).id)
}

export async function DELETE(request: Request, { params }: Context) {
  return remove(request, (await params).id)
}
