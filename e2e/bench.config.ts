import { defineConfig } from '@playwright/test'
import base from './playwright.config.ts'

/** Measures in the browser; run by scripts/benchWeb.mjs. */
export default defineConfig({
  ...base,
  testDir: './bench',
  testMatch: '*.bench.ts',
  timeout: 600_000,
  reporter: [['line']],
  use: { ...base.use, trace: 'off' },
})
