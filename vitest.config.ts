import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    include: ['src/**/*.test.{ts,tsx}', 'bench/**/*.test.ts'],
    environment: 'node',
    // No test is a race: on a busy machine thousands of cases take their time.
    testTimeout: 60_000,
  },
})
