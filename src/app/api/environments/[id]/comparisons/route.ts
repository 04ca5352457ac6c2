import { create, list } from '../../../../../server/http/comparisons'

interface Context {
  params: Promise<{ id: string }>
}

export async function GET(_: Request, { params }: Context) {
  return list((await params).id)
}

export async function POST(request: Request, { params }: Context) {
  return create((await params).id, request)
}
