import { keep, versions } from '../../../../../server/http/environments'

interface Context {
  params: Promise<{ id: string }>
}

export async function GET(request: Request, { params }: Context) {
  return versions(request, (await params).id)
}

export async function POST(request: Request, { params }: Context) {
  return keep(request, (await params).id)
}
