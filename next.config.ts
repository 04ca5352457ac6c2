import type { NextConfig } from 'next'

const config: NextConfig = {
  reactStrictMode: true,
  poweredByHeader: false,
  devIndicators: false,
  // Native modules stay outside the bundle.
  serverExternalPackages: ['@libsql/client', 'libsql'],
}

export default config
