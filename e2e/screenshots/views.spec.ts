import { fileURLToPath } from 'node:url'
import { expect, test } from '../tests/plan.ts'

const picture = (name: string): string => fileURLToPath(new URL(`../../docs/screenshots/${name}.png`, import.meta.url))

test('one picture of each main view', async ({ page, kittiwake }) => {
  await page.goto('/')
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
  const shot = async (name: string): Promise<void> => {
    await page.mouse.move(640, 4)
    await page.waitForTimeout(500)
    await page.screenshot({ path: picture(name) })
  }
  await shot('home')
  await kittiwake.open('forecast')
  await page.getByTestId('run').click()
  await expect(page.getByTestId('forecast-title')).toHaveText(/4 in 5/, { timeout: 40_000 })
  await expect(page.locator('.figure .points path').first()).toBeAttached()
  await shot('forecast')
  await kittiwake.stage('Network')
  await kittiwake.type('H30', 'Duration', '13d')
  await kittiwake.select('H40')
  await shot('network')
  await page.evaluate(() => localStorage.setItem('geodrome-theme', 'dusk'))
  await page.reload()
  await kittiwake.select('H40')
  await shot('network-dusk')
  await page.evaluate(() => localStorage.setItem('geodrome-theme', 'daylight'))
  await page.reload()
  await kittiwake.stage('Review')
  await shot('review')
  await kittiwake.stage('Scenarios')
  await page.getByTestId('run-both').click()
  await expect(page.getByTestId('paired')).toContainText(/Earlier in/, { timeout: 40_000 })
  await shot('scenarios')
  await page.goto(`/plan/${kittiwake.id}/calendars?calendar=coating`)
  await expect(page.getByRole('heading', { name: 'Coating window' })).toBeVisible()
  await shot('calendars')
  for (const name of ['Set-up', 'Handover'] as const) {
    await kittiwake.stage(name)
    await shot(name.toLowerCase())
  }
})
