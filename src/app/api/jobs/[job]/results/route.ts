import { results } from '../../../../../server/http/jobs'

interface Context {
  params: Promise<{ job: string }>
}

export async function GET(request: Request, { params }: Context) {
  return results(request, (await params).job)
}
