import { Desk, expect, test } from './plan.ts'

test('two tabs: each sees the other’s change, different facts are both kept', async ({ context, kiln }) => {
  await kiln.open()
  const other = await new Desk(await context.newPage(), kiln.id).open()
  await kiln.type('K40', 'Duration', '6d')
  await expect(other.finish).toHaveText('Fri 19 Mar 16:00')
  await expect(other.news).toContainText('K40 Lay new lining, 5 d → 6 d')
  await other.type('K30', 'Duration', '3d')
  await expect(kiln.finish).toHaveText('Mon 22 Mar 16:00')
  expect([await kiln.duration('K40'), await kiln.duration('K30')]).toEqual([2880, 1440])
})

test('two tabs change the same fact: the later one is refused with both versions, and nothing is lost', async ({ context, page, kiln }) => {
  await kiln.open()
  const otherPage = await context.newPage()
  const other = await new Desk(otherPage, kiln.id).open()
  // The first tab cannot reach the server while both edit.
  await page.route('**/changes', (route) => route.abort())
  await kiln.type('K40', 'Duration', '9d')
  await expect(kiln.stored).toContainText('1 waiting here, not stored')
  await other.type('K40', 'Duration', '6d')
  await expect(other.stored).toContainText(/^Stored/)
  await page.unroute('**/changes')

  const conflict = page.getByTestId('conflict')
  await expect(conflict).toContainText('changed the same thing meanwhile')
  await expect(conflict).toContainText('5 d → 9 d')
  await expect(conflict).toContainText('5 d → 6 d')
  await expect(kiln.finish).toHaveText('Fri 19 Mar 16:00')
  expect(await kiln.duration('K40')).toBe(2880)

  await conflict.getByRole('button', { name: 'Use mine after all' }).click()
  await expect(conflict).toHaveCount(0)
  await expect(other.finish).toHaveText('Wed 24 Mar 16:00')
  expect(await kiln.duration('K40')).toBe(4320)
})

test('changes made while the server is away wait, survive a reload, and are stored when it is back', async ({ page, kiln }) => {
  await kiln.open()
  await page.route('**/changes', (route) => route.abort())
  await kiln.type('K40', 'Duration', '6d')
  await kiln.type('K30', 'Duration', '4d')
  await expect(kiln.stored).toContainText('2 waiting here, not stored')
  await page.reload()
  await expect(kiln.stored).toContainText('2 waiting here, not stored')
  await expect(kiln.finish).toHaveText('Tue 23 Mar 16:00')
  expect((await kiln.onServer()).revision).toBe(1)
  await page.unroute('**/changes')
  await expect(kiln.stored).toContainText(/^Stored/)
  expect([await kiln.duration('K40'), await kiln.duration('K30')]).toEqual([2880, 1920])
})
