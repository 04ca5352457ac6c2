import { read, remove } from '../../../../server/http/checkpoints'

interface Context {
  params: Promise<{ checkpoint: string }>
}

export async function GET(request: Request, { params }: Context) {
  return read(request, (await params).checkpoint)
}

export async function DELETE(request: Request, { params }: Context) {
  return remove(request, (await params).checkpoint)
}
