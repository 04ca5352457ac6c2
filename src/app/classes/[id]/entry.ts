import { networkInterfaces } from 'node:os'
import { headers } from 'next/headers'
import { toString } from 'qrcode'

/** Hosts that only this machine knows. */
const ALONE = /^(localhost|127\.|\[::1\])/

/** Where students enter by a code: as this page was reached, or by the address of this machine in its network. */
export async function entryOf(code: string): Promise<{ address: string; qr: string; alone: boolean }> {
  const asked = await headers()
  const host = asked.get('host') ?? 'localhost'
  const open = !ALONE.test(`${process.env.HOST || 'localhost'}`)
  const own = ALONE.test(host) && open ? outerAddress() : undefined
  const reached = own ? `${own}:${host.split(':').at(-1)}` : host
  const scheme = asked.get('x-secure') === 'yes' ? 'https' : 'http'
  const address = `${scheme}://${reached}/join/${code}`
  return {
    address,
    qr: await toString(address, { type: 'svg', margin: 1, errorCorrectionLevel: 'M' }),
    alone: ALONE.test(reached),
  }
}

/** The address of this machine in its network; undefined where it is in none. */
function outerAddress(): string | undefined {
  return Object.values(networkInterfaces())
    .flat()
    .find((each) => each && !each.internal && each.family === 'IPv4')?.address
}
