import { expect, savedAs, test } from './plan.ts'

test('read the network as a Map: trace, fold, link by dragging, a loop refused and shown, saved as SVG', async ({
  page,
  kiln,
}) => {
  await kiln.open()
  await page.getByRole('button', { name: 'Map', exact: true }).click()
  const map = page.getByTestId('map')
  const box = (code: string) =>
    map
      .locator('.vue-flow__node')
      .filter({ has: page.locator('.code', { hasText: new RegExp(`^${code}$`) }) })
  await expect(map.getByText(/^9 boxes in/)).toBeVisible()
  await map.getByRole('button', { name: 'Fit' }).click()
  await expect(map.locator('.vue-flow__node')).toHaveCount(9)
  await box('B20').click()
  await expect(kiln.lens.getByRole('heading', { name: 'Rebuild burner' })).toBeVisible()
  await expect(box('K20').locator('.box')).toHaveClass(/faded/)
  await expect(box('B30').locator('.box')).toHaveClass(/lit/)

  const edge = async (code: string, side: 'start' | 'finish'): Promise<[number, number]> => {
    const b = (await box(code).locator(`.vue-flow__handle[data-handleid=${side}]`).boundingBox())!
    return [b.x + b.width / 2, b.y + b.height / 2]
  }
  await kiln.drag(await edge('K40', 'finish'), await edge('B30', 'start'))
  await expect(kiln.news).toContainText('B30 after K40, linked')
  // The new link lays the Map out anew: the boxes are where they will be once they rest.
  await expect
    .poll(async () => {
      const a = await edge('B30', 'finish')
      await page.waitForTimeout(150)
      const b = await edge('B30', 'finish')
      return a[0] === b[0] && a[1] === b[1]
    })
    .toBe(true)
  await kiln.drag(await edge('B30', 'finish'), await edge('K20', 'start'))
  await expect(map.getByRole('alert')).toContainText('these activities wait for each other')
  await expect(box('B30').locator('.box')).toHaveClass(/loop/)
  await expect(box('B10').locator('.box')).not.toHaveClass(/loop/)
  expect((await kiln.onServer()).plan.links).toHaveLength(12)

  await map.getByRole('button', { name: 'Fold all groups' }).click()
  await expect(map.locator('.vue-flow__node')).toHaveCount(2)
  await map.getByRole('button', { name: 'Open all groups' }).click()
  const svg = (await savedAs(page, 'Map', 'SVG')).bytes.toString()
  expect(svg.match(/<rect [^>]*rx="9"/g)).toHaveLength(9)
  expect(svg).toContain('Lay new lining')
})

test('read it as arrows between numbered events with their times and slack; a named event keeps its number when work comes in before it', async ({
  page,
  kiln,
}) => {
  await kiln.open()
  await page.getByRole('button', { name: 'Arrow map', exact: true }).click()
  const map = page.getByTestId('arrow-map')
  await expect(map.locator('.arrow.work')).toHaveCount(9)
  const event = (number: number) =>
    map.locator('.event button').filter({ hasText: new RegExp(`^${number}$`) })
  await expect(event(10)).toHaveAttribute('title', /slack 6 d\. Ends nothing, begins K10\./)
  await map.locator('.arrow.work .hit').first().click({ force: true })
  await expect(kiln.lens.getByTestId('explain-start')).toBeVisible()

  const shell = map.locator('.event button[title*="Ends K30,"]')
  const number = Number(await shell.textContent())
  await shell.press('Enter')
  const form = map.getByRole('form', { name: 'The event' })
  await form.getByLabel('Number of the event').fill('10')
  await form.getByRole('button', { name: 'Apply' }).click()
  await expect(form.getByRole('alert')).toContainText('write a whole number above')
  await form.getByLabel('Number of the event').fill(String(number + 2))
  await form.getByLabel('Name of the event').fill('Shell sound')
  await form.getByRole('button', { name: 'Apply' }).click()
  await expect(map.getByText('Shell sound')).toBeVisible()
  await expect(kiln.stored).toHaveText(/^(All s|S)tored/)

  // Work that comes in before it: the event is known again, over a reload too.
  await kiln.select('K20')
  await kiln.addLine('Measure shell, 1d, after K20')
  await expect(map.locator('.arrow.work')).toHaveCount(10)
  await expect(kiln.stored).toHaveText(/^(All s|S)tored/)
  await page.reload()
  await expect(map.locator('.arrow.work')).toHaveCount(10)
  await expect(map.locator('.event', { hasText: 'Shell sound' }).locator('button')).toHaveText(
    String(number + 2),
  )

  // Numbered anew by tens, it is still called so.
  await map.locator('.event', { hasText: 'Shell sound' }).locator('button').press('Enter')
  await form.getByRole('button', { name: 'Number all anew by tens' }).click()
  await expect(map.locator('.event', { hasText: 'Shell sound' }).locator('button')).toHaveText(/^\d+0$/)
  await form.getByRole('button', { name: 'Apply' }).press('Escape')

  await map.getByRole('button', { name: 'Fold all groups' }).click()
  await expect(map.locator('.arrow.work')).toHaveCount(2)
  await map
    .locator('.arrow.work')
    .filter({ hasText: 'Burner and controls' })
    .locator('.hit')
    .dblclick({ force: true })
  await expect(map.locator('.arrow.work')).toHaveCount(4)
})

test('a Map that is opened with a selection begins at it', async ({ page, kittiwake }) => {
  await kittiwake.open()
  await kittiwake.select('H32')
  await page.getByRole('button', { name: 'Map', exact: true }).click()
  const chosen = page.getByTestId('map').locator('.box.selected')
  await expect(chosen).toContainText('H32')
  // Whole but for the fractions of pixels at which it lies.
  await expect(chosen).toBeInViewport({ ratio: 0.9 })
})
