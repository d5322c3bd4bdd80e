import { fileURLToPath } from 'node:url'
import { defineConfig } from '@playwright/test'

const root = (path: string): string => fileURLToPath(new URL(`../${path}`, import.meta.url))
const port = Number(process.env.GEODROME_E2E_PORT ?? 4790)

/** A practitioner's tasks in Debian's Chromium, on the built application and a real database. */
export default defineConfig({
  testDir: './tests',
  timeout: 180_000,
  // Machines are at times five times slower than at others: what is waited for must come, not come soon.
  expect: { timeout: 30_000 },
  retries: process.env.GEODROME_E2E_REPORT ? 1 : 0,
  // Two browsers beside the server take longer on two cores than one after the other.
  workers: 1,
  reporter: process.env.GEODROME_E2E_REPORT
    ? [['list'], ['json', { outputFile: process.env.GEODROME_E2E_REPORT }]]
    : [['list']],
  use: {
    actionTimeout: 30_000,
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    // What fades and slides is waited for at each step; those who ask for less motion see the same without.
    reducedMotion: 'reduce',
    // Recording every step of every test costs a quarter of the time; what failed leaves its page as text.
    trace: 'on-first-retry',
    testIdAttribute: 'data-test',
    launchOptions: {
      executablePath: process.env.GEODROME_CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--headless',
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
    command: `${process.execPath} ${root('server/dist/main.js')}`,
    url: `http://127.0.0.1:${port}/api/health`,
    reuseExistingServer: false,
    timeout: 180_000,
    env: {
      GEODROME_PORT: String(port),
      GEODROME_WEB: root('web/dist'),
      GEODROME_LOG: 'warn',
      GEODROME_DB_NAME: process.env.GEODROME_E2E_DB ?? 'geodrome_e2e',
    },
  },
})
