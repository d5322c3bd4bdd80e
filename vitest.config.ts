import { defineConfig } from 'vitest/config'

export default defineConfig({
  resolve: { conditions: ['development'] },
  ssr: { resolve: { conditions: ['development'] } },
  test: {
    include: ['{core,print,cli,server,web}/src/**/*.test.ts'],
    setupFiles: ['scripts/properties.mjs'],
    testTimeout: 180_000,
    hookTimeout: 120_000,
    maxWorkers: 2,
  },
})
