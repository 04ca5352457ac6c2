import { read, remove, write } from '../../../../server/http/comparisons'

interface Context {
  params: Promise<{ comparison: string }>
}

export async function GET(request: Request, { params }: Context) {
  return read(request, (await params).comparison)
}

export async function PUT(request: Request, { params }: Context) {
  return write(request, (await params).comparison)
}

export async function DELETE(request: Request, { params }: Context) {
  return remove(request, (await params).comparison)
}
