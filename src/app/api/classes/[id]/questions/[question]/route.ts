import { change, read } from '../../../../../../server/http/questions'

interface Context {
  params: Promise<{ id: string; question: string }>
}

export async function GET(request: Request, { params }: Context) {
  const { id, question } = await params
  return read(request, id, question)
}

export async function PATCH(request: Request, { params }: Context) {
  const { id, question } = await params
  return change(request, id, question)
}
