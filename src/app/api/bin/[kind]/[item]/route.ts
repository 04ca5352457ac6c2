import { empty, take } from '../../../../../server/http/bin'

interface Context {
  params: Promise<{ kind: string; item: string }>
}

export async function POST(request: Request, { params }: Context) {
  const { kind, item } = await params
  return take(request, kind, item)
}

export async function DELETE(request: Request, { params }: Context) {
  const { kind, item } = await params
  return empty(request, kind, item)
}
