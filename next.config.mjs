/** @type {import('next').NextConfig} */
const config = {
  reactStrictMode: true,
  poweredByHeader: false,
  devIndicators: false,
  // Native modules stay outside the bundle, and what starts threads or may never be needed.
  serverExternalPackages: [
    '@libsql/client',
    'libsql',
    'piscina',
    'bullmq',
    'ioredis',
    'pino',
    '@node-rs/argon2',
  ],
}

export default config
