import { version as read } from '../../../../../../server/http/lessons'

interface Context {
  params: Promise<{ lesson: string; version: string }>
}

export async function GET(request: Request, { params }: Context) {
  const { lesson, version } = await params
  return read(request, lesson, version)
}
