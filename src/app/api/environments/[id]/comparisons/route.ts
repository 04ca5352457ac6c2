import { create, list } from '../../../../../server/http/comparisons'

interface Context {
  params: Promise<{ id: string }>
}

export async function GET(request: Request, { params }: Context) {
  return list(request, (await params).id)
}

export async function POST(request: Request, { params }: Context) {
  return create(request, (await params).id)
}
