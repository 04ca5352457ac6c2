import { read } from '../../../../server/http/schemas'

interface Context {
  params: Promise<{ name: string }>
}

export async function GET(request: Request, { params }: Context) {
  return read(request, (await params).name)
}
