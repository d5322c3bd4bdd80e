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

test('what was foreseen while somebody else changed the plan is foreseen anew, and both changes count', async ({
  context,
  page,
  kiln,
}) => {
  await kiln.open()
  const other = await new Desk(await context.newPage(), kiln.id).open()
  await kiln.begin('K40', 'Duration', '6d')
  await expect(page.getByTestId('foreseen')).toContainText('finish 1 d later')
  await other.type('K30', 'Duration', '3d')
  await expect(kiln.finish).toHaveText('Fri 19 Mar 16:00')
  await expect(page.getByTestId('foreseen')).toContainText('finish 1 d later')
  await page.keyboard.press('Enter')
  await expect(kiln.finish).toHaveText('Mon 22 Mar 16:00')
  await expect(other.finish).toHaveText('Mon 22 Mar 16:00')
})

test('two tabs change the same fact: the later one is refused with both versions, and nothing is lost', async ({
  context,
  page,
  kiln,
}) => {
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

test('six tabs: those not looked at give their connection back, and see what they missed when they are looked at again', async ({
  context,
  page,
  kiln,
}) => {
  const look = (tab: Desk, state: 'hidden' | 'visible'): Promise<void> =>
    tab.page.evaluate((now) => {
      Object.defineProperty(document, 'visibilityState', { value: now, configurable: true })
      document.dispatchEvent(new Event('visibilitychange'))
    }, state)
  await kiln.open()
  const others: Desk[] = []
  for (let k = 0; k < 5; k++) others.push(await new Desk(await context.newPage(), kiln.id).open())
  // A browser has six connections to a server, and all are taken by streams now.
  for (const tab of others) await look(tab, 'hidden')
  await page.bringToFront()
  await kiln.type('K40', 'Duration', '6d')
  await expect(kiln.stored).toContainText(/^Stored/)
  const [first] = others
  await expect(first!.finish).toHaveText('Thu 18 Mar 16:00')
  await look(first!, 'visible')
  await expect(first!.finish).toHaveText('Fri 19 Mar 16:00')
})

test('changes made while the server is away wait, survive a reload, and are stored when it is back', async ({
  page,
  kiln,
}) => {
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

test('two tabs without a server: neither loses what the other one keeps, over reloads of both', async ({
  context,
  page,
  kiln,
}) => {
  await kiln.open()
  const otherPage = await context.newPage()
  const other = await new Desk(otherPage, kiln.id).open()
  for (const p of [page, otherPage]) await p.route('**/changes', (route) => route.abort())
  await kiln.type('K40', 'Duration', '6d')
  await expect(kiln.stored).toContainText('1 waiting here, not stored')
  await other.type('K30', 'Duration', '4d')
  await expect(other.stored).toContainText('1 waiting here, not stored')
  // While both live, each keeps its own: the other's is not taken.
  await page.reload()
  await expect(kiln.stored).toContainText('1 waiting here, not stored')
  await otherPage.reload()
  await expect(other.stored).toContainText('1 waiting here, not stored')
  await expect(other.finish).toHaveText('Mon 22 Mar 16:00')
  // A tab that is closed leaves its change to the next one that opens the plan.
  await otherPage.close()
  await page.reload()
  await expect(kiln.stored).toContainText('2 waiting here, not stored')
  await page.unroute('**/changes')
  await expect(kiln.stored).toContainText(/^Stored/)
  expect([await kiln.duration('K40'), await kiln.duration('K30')]).toEqual([2880, 1920])
})

test('a plan that somebody removes while it is edited: what was made goes into a new plan, or back when it is back', async ({
  page,
  kiln,
}) => {
  await kiln.open()
  await page.request.delete(`/api/plans/${kiln.id}`)
  await kiln.type('K40', 'Duration', '6d')
  const removed = page.getByTestId('removed')
  await expect(removed).toContainText('This plan was removed. 1 change made here is not stored')
  await expect(kiln.finish).toHaveText('Fri 19 Mar 16:00')
  await page.reload()
  await expect(removed).toContainText('1 change made here is not stored, and waits in this browser')
  await removed.getByRole('button', { name: 'Bring it back' }).click()
  await expect(kiln.stored).toContainText(/^Stored/)
  expect(await kiln.duration('K40')).toBe(2880)

  await page.request.delete(`/api/plans/${kiln.id}`)
  await kiln.type('K30', 'Duration', '4d')
  await removed.getByRole('button', { name: 'Make a new plan of it' }).click()
  await page.waitForURL((url) => !url.pathname.includes(kiln.id))
  const made = new Desk(page, /plan\/([^/]+)/.exec(page.url())![1]!)
  await expect(made.finish).toHaveText('Tue 23 Mar 16:00')
  expect([await made.duration('K40'), await made.duration('K30')]).toEqual([2880, 1920])
  // What was made in the removed one still waits for it, and home names no plan that is not there.
  await page.goto('/')
  await expect(page.getByTestId('waiting')).toHaveCount(0)
})

test('edits that wait in this browser are named on the home page, by plan', async ({ page, kiln }) => {
  await kiln.open()
  await page.route('**/changes', (route) => route.abort())
  await kiln.type('K40', 'Duration', '6d')
  await expect(kiln.stored).toContainText('1 waiting here, not stored')
  await page.goto('/')
  const link = page.locator(`a[href="/plan/${kiln.id}/network"]`)
  const card = page.getByRole('row').filter({ has: link })
  await expect(card.getByTestId('waiting')).toContainText(
    '1 change made here not stored yet: open it to send it',
  )
  await page.unroute('**/changes')
  // Without a reload in between: it waits in this very tab.
  await link.click()
  await expect(kiln.stored).toContainText(/^Stored/)
  await page.goto('/')
  await expect(card.getByTestId('waiting')).toHaveCount(0)
})

test('a part of the application that cannot be fetched is said, with what to do; nothing typed is lost', async ({
  page,
  kiln,
}) => {
  await kiln.open()
  await kiln.type('K40', 'Duration', '7d')
  await page.route('**/assets/ForecastStage*', (route) => route.abort())
  await kiln.stage('Forecast')
  const alert = page.getByRole('alert').filter({ hasText: 'could not be fetched' })
  await expect(alert).toContainText('What you changed is kept')
  await page.unroute('**/assets/ForecastStage*')
  await alert.getByRole('button', { name: 'Load the page anew' }).click()
  await expect(kiln.cell('K40', 'Duration')).toHaveText('7 d')
  await kiln.stage('Forecast')
  await expect(page.getByRole('alert')).toHaveCount(0)
  await expect(page).toHaveURL(/forecast/)
})
