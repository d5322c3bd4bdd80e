import { defineConfig, type TestProjectInlineConfiguration } from 'vitest/config'

const conditions = ['development']

/**
 * @param isolate - whether each file has packages of its own. Without, they are loaded once for all, which takes a third of the time;
 * modules of the repository are always a file's own
 */
const project = (name: string, include: string, isolate: boolean): TestProjectInlineConfiguration => ({
  resolve: { conditions },
  ssr: { resolve: { conditions } },
  test: {
    name,
    include: [include],
    isolate,
    setupFiles: ['scripts/properties.mjs'],
    testTimeout: 180_000,
    hookTimeout: 120_000,
  },
})

export default defineConfig({
  test: {
    maxWorkers: 2,
    projects: [
      project('computation', '{core,print,cli}/src/**/*.test.ts', false),
      project('application', 'web/src/**/*.test.ts', false),
      project('server', 'server/src/**/*.test.ts', true),
    ],
  },
})
