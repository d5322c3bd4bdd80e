import { fileURLToPath } from 'node:url'
import { demoFile, expect, test } from '../tests/plan.ts'

const picture = (name: string): string =>
  fileURLToPath(new URL(`../../docs/screenshots/${name}.png`, import.meta.url))

test('one picture of each main view', async ({ page, kittiwake }) => {
  await page.goto('/')
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
  const shot = async (name: string): Promise<void> => {
    await page.mouse.move(640, 4)
    await page.waitForTimeout(500)
    await page.screenshot({ path: picture(name) })
  }
  await expect(page.getByTestId('plans').getByText('looking …')).toHaveCount(0, { timeout: 30_000 })
  await shot('home')
  await kittiwake.open('forecast')
  await page.getByTestId('run').click()
  await expect(page.getByTestId('forecast-title')).toHaveText(/4 in 5/, { timeout: 40_000 })
  await page.getByTestId('find-owed').click()
  await expect(page.getByTestId('owed').getByRole('row').nth(1)).toContainText(/\d d/, { timeout: 90_000 })
  await expect(page.getByTestId('owed').getByRole('status')).toHaveCount(0, { timeout: 90_000 })
  await expect(page.locator('.figure .points path').first()).toBeAttached()
  await shot('forecast')
  await kittiwake.open('forecast/pert')
  await expect(page.getByTestId('merge-bias')).toBeVisible()
  await shot('pert')
  await kittiwake.open('forecast/crash')
  await expect(page.getByTestId('crash-steps')).toBeVisible({ timeout: 30_000 })
  await shot('crash')
  await kittiwake.open('forecast/estimates')
  await expect(page.getByTestId('estimates')).toBeVisible()
  await shot('estimates')
  await kittiwake.open('forecast/risks')
  await page.getByTestId('weigh').click()
  await expect(page.getByTestId('owed-R10')).toContainText('EUR', { timeout: 60_000 })
  await shot('risks')
  // Bars have the room, not names.
  await page.evaluate(() =>
    localStorage.setItem('geodrome-rows-widths', JSON.stringify({ ground: 330, diagram: 250 })),
  )
  await kittiwake.open('network')
  await kittiwake.type('H30', 'Duration', '13d')
  await kittiwake.select('H20')
  await page.getByRole('button', { name: 'Zoom of the Ground' }).click()
  await page.getByText('by month').click()
  await kittiwake.select('H40')
  await shot('network')
  await page.getByRole('button', { name: 'Map', exact: true }).click()
  await expect(page.getByTestId('map').locator('.vue-flow__node').first()).toBeVisible()
  await kittiwake.select('H30')
  await kittiwake.select('H40')
  await shot('map')
  await kittiwake.stage('Review')
  await page.locator('.findings .message').filter({ hasText: 'Open ends: 2' }).click()
  await expect(page.getByTestId('foresight')).toBeVisible()
  await shot('review')
  await kittiwake.stage('Scenarios')
  await page.getByTestId('run-both').click()
  await expect(page.getByTestId('run-both')).toHaveCount(0, { timeout: 90_000 })
  await expect(page.getByTestId('scenario-paired')).toContainText('of 100')
  await shot('scenarios')
  await page.goto(`/plan/${kittiwake.id}/calendars?calendar=coating`)
  await expect(page.getByRole('heading', { name: 'Coating window' })).toBeVisible()
  await shot('calendars')
  await kittiwake.open('handover')
  await expect(page.getByTestId('report').getByRole('heading', { name: 'All activities' })).toBeVisible({
    timeout: 60_000,
  })
  await shot('report')
})

test('pictures of resources, on the refit and on its update', async ({ page, kittiwake, update }) => {
  await kittiwake.open('resources')
  await page.getByRole('navigation', { name: 'Resources' }).getByText('Crane').click()
  await expect(page.getByTestId('way').first()).toBeVisible()
  await page.mouse.move(640, 4)
  await page.waitForTimeout(500)
  await page.screenshot({ path: picture('resources') })
  await update.open('resources/money')
  await expect(page.getByTestId('money-table')).toBeVisible()
  await page.mouse.move(640, 4)
  await page.waitForTimeout(500)
  await page.screenshot({ path: picture('money') })
})

test('pictures of an update, and of those that were kept', async ({ page, update }) => {
  await update.open('progress')
  const say = async (cell: string, text: string): Promise<void> => {
    await page.getByLabel(cell, { exact: true }).fill(text)
    await page.keyboard.press('Tab')
  }
  await say('E40, started', '10 may')
  await say('E40, left or percent', '4 d')
  await say('P50, left or percent', '3 d')
  await say('L50, promised', 'sat 29 may 12:00')
  await say('W20, finished', '12 may')
  await say('H30, left or percent', '2 d')
  await expect(page.getByTestId('update-title')).toContainText('need a decision')
  await page.mouse.move(640, 4)
  await page.waitForTimeout(500)
  await page.screenshot({ path: picture('progress') })
  // The demo's own plan has a past: what Review found after each update is known of it.
  const plans = (await (await page.request.get('/api/plans')).json()) as {
    id: string
    code: string
    revision: number
  }[]
  const lived = plans.find(({ code, revision }) => code === 'KITE-MAY' && revision > 1)!
  await page.goto(`/plan/${lived.id}/progress/periods`)
  await expect(page.getByTestId('drift')).toBeVisible()
  await expect(page.getByTestId('periods-table')).toContainText('Open findings')
  await expect(page.getByTestId('periods-table')).not.toContainText('…')
  await page.mouse.move(640, 4)
  await page.waitForTimeout(500)
  await page.screenshot({ path: picture('periods') })
  await update.open('forecast/chain')
  await expect(page.getByTestId('buffer-holds')).toBeVisible({ timeout: 60_000 })
  await page
    .getByTestId('chain-ground')
    .getByRole('button', { name: /^Project buffer/ })
    .click()
  await page.mouse.move(640, 4)
  await page.waitForTimeout(500)
  await page.screenshot({ path: picture('chain') })
})

test('the update of 10 May beside the plan before it', async ({ page, kittiwake }) => {
  const shot = async (name: string): Promise<void> => {
    await page.mouse.move(640, 4)
    await page.waitForTimeout(500)
    await page.screenshot({ path: picture(name) })
  }
  await kittiwake.open('review/revisions')
  await page.getByLabel('Plan file to compare with').setInputFiles({
    name: 'update of 10 May.json',
    mimeType: 'application/json',
    buffer: Buffer.from(demoFile('kittiwake-may')),
  })
  await page.getByRole('button', { name: 'later', exact: true }).click()
  await expect(page.getByTestId('revisions-title')).toContainText('10 d later')
  await shot('revisions')
})

test('a picture on the Kiln rebuild', async ({ page, kiln }) => {
  const shot = async (name: string): Promise<void> => {
    await page.mouse.move(640, 4)
    await page.waitForTimeout(500)
    await page.screenshot({ path: picture(name) })
  }
  await kiln.open()
  await page.getByRole('button', { name: 'Arrow map', exact: true }).click()
  await expect(page.getByTestId('arrow-map').locator('.arrow').first()).toBeAttached()
  await shot('arrow-map')
})
