import { readVersion } from '../../../../../../server/http/environments'

export async function GET(
  request: Request,
  { params }: { params: Promise<{ id: string; version: string }> },
) {
  const { id, version } = await params
  return readVersion(request, id, version)
}
