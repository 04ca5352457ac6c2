import { read, remove, write } from '../../../../server/http/exercises'

interface Context {
  params: Promise<{ exercise: string }>
}

export async function GET(request: Request, { params }: Context) {
  return read(request, (await params).exercise)
}

export async function PUT(request: Request, { params }: Context) {
  return write(request, (await params).exercise)
}

export async function DELETE(request: Request, { params }: Context) {
  return remove(request, (await params).exercise)
}
