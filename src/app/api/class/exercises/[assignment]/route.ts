import { readExercise } from '../../../../../server/http/student'

interface Context {
  params: Promise<{ assignment: string }>
}

export async function GET(request: Request, { params }: Context) {
  return readExercise(request, (await params).assignment)
}
