import { changeStudent } from '../../../../../../server/http/classes'

interface Context {
  params: Promise<{ id: string; student: string }>
}

export async function PATCH(request: Request, { params }: Context) {
  const { id, student } = await params
  return changeStudent(request, id, student)
}
