import { readVersion } from '../../../../../../server/http/environments'

export async function GET(_: Request, { params }: { params: Promise<{ id: string; version: string }> }) {
  const { id, version } = await params
  return readVersion(id, version)
}
