import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { defineConfig } from '@playwright/test'

const PORT = 3210
const database = join(tmpdir(), `jaunty-pawn-e2e-${process.pid}`, 'shelf.sqlite')

export default defineConfig({
  testDir: 'tests',
  testMatch: process.env.SCREENSHOTS ? 'screenshots.ts' : process.env.LONG ? '*.long.ts' : '*.spec.ts',
  outputDir: 'test-results',
  workers: 1,
  // Of machines where other work runs beside it.
  timeout: 120_000,
  expect: { timeout: 20_000 },
  retries: 0,
  reporter: [['list'], ['json', { outputFile: 'test-results/playwright.json' }]],
  use: {
    baseURL: `http://localhost:${PORT}`,
    viewport: { width: 1280, height: 800 },
    colorScheme: 'light',
    trace: 'retain-on-failure',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
  webServer: {
    command: 'node scripts/start.mjs',
    url: `http://localhost:${PORT}`,
    timeout: 240_000,
    env: { PORT: String(PORT), JAUNTY_PAWN_DATABASE: database },
  },
})
