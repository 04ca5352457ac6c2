import { read, remove } from '../../../../server/http/checkpoints'

interface Context {
  params: Promise<{ checkpoint: string }>
}

export async function GET(_: Request, { params }: Context) {
  return read((await params).checkpoint)
}

export async function DELETE(_: Request, { params }: Context) {
  return remove((await params).checkpoint)
}
