import { keepVersion, versions } from '../../../../../server/http/lessons'

interface Context {
  params: Promise<{ lesson: string }>
}

export async function GET(request: Request, { params }: Context) {
  return versions(request, (await params).lesson)
}

export async function POST(request: Request, { params }: Context) {
  return keepVersion(request, (await params).lesson)
}
