import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as wait } from 'node:timers/promises'
import { ROOT } from '../install.mjs'
import { say, Stop } from '../say.mjs'
import { random, startApplication } from './application.mjs'
import { importPlan } from './edits.mjs'

const SETTLED_MS = 120_000
const CODES = ['A10', 'A20', 'A30', 'A40', 'A50', 'A60', 'H10', 'H20']

/** Types a name into the list, as a person does. @returns whether the page was there to take it */
const typeName = async (page, code, name) => {
  const row = page.getByRole('row').filter({ has: page.getByRole('gridcell', { name: code, exact: true }) })
  await row.getByRole('gridcell').nth(1).click({ timeout: 20_000 })
  await page.getByRole('treegrid').focus()
  await page.keyboard.press('Enter')
  await page.getByRole('treegrid').getByRole('textbox').fill(name)
  await page.keyboard.press('Enter')
  await row.getByText(name, { exact: true }).waitFor({ timeout: 20_000 })
}

/** What a browser may lose at any moment; each is undone again. */
const LOSSES = {
  server: ({ application }) => application.killServer(0),
  database: ({ application }) => application.killDatabase(),
  network: async ({ context }) => {
    await context.setOffline(true)
    setTimeout(() => void context.setOffline(false), 1500)
  },
  storage: ({ page }) =>
    page.evaluate(async () => {
      for (const { name } of await indexedDB.databases()) indexedDB.deleteDatabase(name)
    }),
  tab: async (desk) => {
    await desk.page.close()
    await desk.open()
  },
  reload: async (desk) => desk.open(),
}

/**
 * One person types in a browser that loses server, database, network, its own storage or the tab after each edit; at the end everything
 * that was typed is stored. @throws Stop with what was lost
 */
export const browser = async (losses, seed) => {
  const { chromium, selectors } = await import('@playwright/test')
  selectors.setTestIdAttribute('data-test')
  const folder = mkdtempSync(join(tmpdir(), 'geodrome-browser-'))
  const application = await startApplication(folder, {
    servers: 1,
    env: { GEODROME_WEB: join(ROOT, 'web/dist') },
  })
  const roll = random(seed)
  const [address] = application.addresses()
  const id = await importPlan(address)
  const launched = await chromium.launch({
    executablePath: process.env.GEODROME_CHROMIUM ?? '/usr/bin/chromium',
    args: ['--headless', '--no-sandbox', '--disable-gpu'],
  })
  const context = await launched.newContext({ viewport: { width: 1280, height: 800 } })
  const desk = {
    application,
    context,
    page: null,
    async open() {
      if (desk.page === null || desk.page.isClosed()) desk.page = await context.newPage()
      // The application itself comes from the server: a page is opened when that is there.
      for (let tries = 0; ; tries++) {
        await application.healthy()
        await context.setOffline(false)
        try {
          await desk.page.goto(`${address.replace('/api', '')}/plan/${id}/network`)
          await desk.page.getByTestId('planned-finish').waitFor({ timeout: 30_000 })
          return
        } catch (error) {
          if (tries === 5) throw error
        }
      }
    },
  }
  await desk.open()
  const typed = new Map()
  const kinds = Object.keys(LOSSES)
  let storageGone = false
  for (let k = 1; k <= losses; k++) {
    const code = CODES[Math.floor(roll() * CODES.length)]
    const name = `Name ${k}`
    await typeName(desk.page, code, name)
    typed.set(code, name)
    const stored = desk.page.getByTestId('stored')
    const loss = kinds[Math.floor(roll() * kinds.length)]
    if (loss === 'storage') storageGone = true
    // What waits in a tab without its own storage is lost with the tab; the page says so. Then it has to be stored first.
    if ((loss === 'tab' || loss === 'reload') && storageGone) {
      await stored.getByText(/^(All s|S)tored/).waitFor({ timeout: SETTLED_MS })
      storageGone = false
    }
    await wait(roll() * 300)
    await LOSSES[loss](desk)
    if (k % 20 === 0) say(`${k} of ${losses} losses in the browser`)
  }
  await application.healthy()
  await context.setOffline(false)
  try {
    await desk.page
      .getByTestId('stored')
      .getByText(/^(All s|S)tored/)
      .waitFor({ timeout: SETTLED_MS })
  } catch {
    throw new Stop(`it does not settle: “${await desk.page.getByTestId('stored').textContent()}”`)
  }
  const { plan } = await (await fetch(`${address}/plans/${id}`)).json()
  const lost = [...typed].filter(
    ([code, name]) => plan.activities.find((a) => a.code === code)?.name !== name,
  )
  await launched.close()
  await application.stop()
  rmSync(folder, { recursive: true, force: true })
  if (lost.length > 0) throw new Stop(`lost: ${lost.map(([code, name]) => `${code} “${name}”`).join(', ')}`)
  say(
    `${losses} losses of server, database, network, storage or tab in a browser; all that was typed is stored`,
  )
}
