import { expect, test } from './plan.ts'

test('see why an activity starts and finishes when it does, and follow the nouns', async ({
  page,
  kittiwake,
}) => {
  await page.goto('/')
  await page.getByRole('link', { name: 'Kittiwake refit', exact: true }).first().click()
  await kittiwake.open()
  await expect(page.getByText('128 activities · 225 links')).toBeVisible()

  await kittiwake.select('H40')
  const start = kittiwake.lens.getByTestId('explain-start')
  await expect(start).toContainText(
    'It starts Tue 25 May 15:45 because S10 Examine hull in dock ends Tue 25 May 15:45.',
  )
  await expect(start.locator('.ladder').getByRole('listitem').last()).toContainText('starts')
  // Every candidate is told, not only the winner: H30 with its lag on the watch is next in line.
  await start.getByText('more that bear on it').click()
  await expect(start).toContainText('H30 ends')
  await expect(start).toContainText('the project starts')

  // The experiment: it is on the longest path, and a day is swallowed by the tide or moves the finish.
  await expect(kittiwake.lens.getByTestId('probe')).toContainText('One day longer moves the finish')

  await start.getByRole('button', { name: 'S10 Examine hull in dock' }).click()
  await expect(kittiwake.lens.getByRole('heading', { name: 'Examine hull in dock' })).toBeVisible()
  await expect(kittiwake.row('S10')).toHaveAttribute('aria-selected', 'true')
  await kittiwake.lens.getByRole('button', { name: 'Surveyor' }).first().click()
  await expect(page.getByRole('heading', { name: 'Surveyor' })).toBeVisible()
})

test('walk the list by keyboard, fold a group, zoom and find', async ({ page, kittiwake }) => {
  await kittiwake.open()
  await kittiwake.select('A10')
  await page.getByRole('treegrid').focus()
  await page.keyboard.press('ArrowDown')
  await expect(kittiwake.row('A12')).toHaveAttribute('aria-selected', 'true')
  await expect(
    kittiwake.lens.getByRole('heading', { name: 'Connect shore power and fire main' }),
  ).toBeVisible()
  for (let k = 0; k < 2; k++) await page.keyboard.press('ArrowUp')
  await page.keyboard.press('Enter')
  await expect(kittiwake.row('A10')).toHaveCount(0)
  await page.keyboard.press('Enter')
  await expect(kittiwake.row('A10')).toHaveCount(1)

  const bar = page.locator('.shape.work .body').nth(3)
  const before = (await bar.boundingBox())!.width
  await page.keyboard.press('Alt+=')
  await expect.poll(async () => (await bar.boundingBox())!.width).toBeGreaterThan(before)

  await page.keyboard.press('Alt+f')
  await page.keyboard.type('coating')
  await expect(page.getByText('1 of 128 shown')).toBeVisible()
  await page.keyboard.press('Escape')
  await page.keyboard.press('Control+k')
  await page.getByRole('combobox', { name: 'An activity' }).fill('sea trials')
  await page.keyboard.press('Enter')
  await expect(kittiwake.lens.getByRole('heading', { name: 'Run sea trials' })).toBeVisible()
})
