import { read, remove, write } from '../../../../server/http/comparisons'

interface Context {
  params: Promise<{ comparison: string }>
}

export async function GET(_: Request, { params }: Context) {
  return read((await params).comparison)
}

export async function PUT(request: Request, { params }: Context) {
  return write((await params).comparison, request)
}

export async function DELETE(_: Request, { params }: Context) {
  return remove((await params).comparison)
}
