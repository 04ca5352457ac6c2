import { ask } from '../../../../../server/http/questions'

interface Context {
  params: Promise<{ id: string }>
}

export async function POST(request: Request, { params }: Context) {
  return ask(request, (await params).id)
}
