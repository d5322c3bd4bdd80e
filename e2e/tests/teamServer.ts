import { spawn } from 'node:child_process'
import { fileURLToPath } from 'node:url'
import { expect, type Browser, type Page } from '@playwright/test'

const here = (path: string): string => fileURLToPath(new URL(`../../${path}`, import.meta.url))
const PASSWORD = 'the tide waits for nobody'

/** A server for a team beside the usual one, on the same database: there people sign in. */
export interface TeamServer {
  /** Where the first administrator says who they are; null where an earlier try of the test was them. */
  readonly firstLink: string | null
  readonly password: string
  /** A browser of somebody of their own. */
  somebody(browser: Browser): Promise<Page>
  /** Somebody opens a link and chooses a password. @param name - of the first administrator */
  comeIn(page: Page, link: string, name?: string): Promise<void>
  stop(): void
}

export const startTeamServer = async (): Promise<TeamServer> => {
  const server = spawn(process.execPath, [here('server/dist/main.js')], {
    env: {
      ...process.env,
      GEODROME_PORT: '0',
      GEODROME_PEOPLE: 'on',
      GEODROME_WEB: here('web/dist'),
      GEODROME_LOG: 'warn',
      GEODROME_DB_NAME: process.env.GEODROME_E2E_DB ?? 'geodrome_e2e',
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  })
  let said = ''
  server.stdout.on('data', (chunk: Buffer) => (said += chunk.toString()))
  await expect.poll(() => said, { timeout: 60_000 }).toMatch(/serves on \S+\n/)
  // The link comes in the same breath, where there is one.
  await new Promise((resolve) => setTimeout(resolve, 1000))
  const baseURL = /serves on (\S+)/.exec(said)![1]!
  return {
    firstLink: /\S+welcome#\S+/.exec(said)?.[0] ?? null,
    password: PASSWORD,
    somebody: async (browser) =>
      (await browser.newContext({ baseURL, viewport: { width: 1280, height: 800 } })).newPage(),
    async comeIn(page, link, name) {
      await page.goto(link)
      if (name !== undefined) await page.getByLabel('What you are called').fill(name)
      await page.getByLabel('Password').fill(PASSWORD)
      await page.getByLabel('The same again').fill(PASSWORD)
      await page.getByRole('button', { name: 'Come in' }).click()
    },
    stop: () => void server.kill(),
  }
}
