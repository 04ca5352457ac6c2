import { keep, versions } from '../../../../../server/http/environments'

interface Context {
  params: Promise<{ id: string }>
}

export async function GET(_: Request, { params }: Context) {
  return versions((await params).id)
}

export async function POST(request: Request, { params }: Context) {
  return keep((await params).id, request)
}
