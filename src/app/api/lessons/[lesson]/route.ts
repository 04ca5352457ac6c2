import { read, remove, write } from '../../../../server/http/lessons'

interface Context {
  params: Promise<{ lesson: string }>
}

export async function GET(request: Request, { params }: Context) {
  return read(request, (await params).lesson)
}

export async function PUT(request: Request, { params }: Context) {
  return write(request, (await params).lesson)
}

export async function DELETE(request: Request, { params }: Context) {
  return remove(request, (await params).lesson)
}
