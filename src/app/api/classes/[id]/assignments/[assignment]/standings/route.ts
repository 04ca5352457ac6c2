import { readStandings } from '../../../../../../../server/http/classes'

interface Context {
  params: Promise<{ id: string; assignment: string }>
}

export async function GET(request: Request, { params }: Context) {
  const { id, assignment } = await params
  return readStandings(request, id, assignment)
}
