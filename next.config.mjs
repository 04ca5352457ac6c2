/** @type {import('next').NextConfig} */
const config = {
  reactStrictMode: true,
  poweredByHeader: false,
  devIndicators: false,
  // Native modules stay outside the bundle.
  serverExternalPackages: ['@libsql/client', 'libsql'],
}

export default config
