import { readFile } from 'node:fs/promises'
import { choose, expect, test } from './plan.ts'

test('a report: what it holds is chosen, it says what the plan says, and it is saved as PDF', async ({
  page,
  kiln,
}) => {
  await kiln.open('handover')
  const report = page.getByTestId('report')
  await expect(report.getByRole('heading', { name: 'The answer' })).toBeVisible()
  const finish = (await page.getByTestId('planned-finish').textContent())!.match(
    /\w{3} \d+ \w{3} \d\d:\d\d/,
  )![0]
  await expect(report).toContainText(`Planned to finish on ${finish}`)
  await page
    .getByTestId('part-money')
    .getByRole('checkbox')
    .or(page.getByTestId('part-money'))
    .first()
    .click()
  await expect(report.getByRole('heading', { name: 'Money' })).toHaveCount(0)
  await expect(report.getByRole('heading', { name: 'All activities' })).toBeVisible()
  const [saved] = await Promise.all([page.waitForEvent('download'), page.getByTestId('save-pdf').click()])
  expect(saved.suggestedFilename()).toBe('KILN-report.pdf')
  const bytes = await readFile(await saved.path())
  expect(bytes.toString('latin1', 0, 5)).toBe('%PDF-')
  expect(bytes.length).toBeGreaterThan(20_000)
  // What it holds is the plan's: whoever makes it next finds it so.
  await expect(kiln.stored).toContainText(/^Stored/)
  await page.reload()
  await expect(report.getByRole('heading', { name: 'All activities' })).toBeVisible()
  await expect(report.getByRole('heading', { name: 'Money' })).toHaveCount(0)
})

test('home: which plan is furthest behind, by how much and how sure; what is over is put away and taken out again', async ({
  page,
  kiln,
  kittiwake,
}) => {
  await kittiwake.open()
  const finish = (await page.getByTestId('planned-finish').textContent())!
  const short = (await page.getByTestId('margin').textContent())!
  await page.goto('/')
  const rowOf = (id: string) =>
    page.getByRole('row').filter({ has: page.locator(`a[href="/plan/${id}/network"]`) })
  const [late, early] = [rowOf(kittiwake.id), rowOf(kiln.id)]
  // What home says is what the plan itself says.
  await expect(late).toContainText(/^KITE.*2 d short.*not run.*\d+ open, \d+ move the answer/)
  expect(short).toContain('2 d short')
  await expect(late).toContainText(/\w{3} \d+ \w{3} 2027/)
  expect(finish).toContain(/(\w{3} \d+ \w{3}) 2027/.exec((await late.textContent())!)![1]!)
  await page.getByRole('combobox', { name: 'Order of the plans' }).click()
  await page.getByRole('option', { name: 'furthest behind first' }).click()
  await expect(page.getByTestId('plans').getByRole('row').nth(1)).toContainText('short')
  const order = await page.getByTestId('plans').getByRole('row').allTextContents()
  const at = (text: RegExp): number => order.findIndex((row) => text.test(row))
  expect(at(/2 d short/)).toBeLessThan(at(/6 d to spare/))

  await early.getByRole('button', { name: /Put away/ }).click()
  await expect(early).toHaveCount(0)
  await page.reload()
  await expect(late).toBeVisible()
  await expect(early).toHaveCount(0)
  await page.getByTestId('with-archived').click()
  await early.getByRole('button', { name: /Take out/ }).click()
  await expect(early).not.toContainText('put away')
  // A copy is a plan of its own with all that is in it.
  await early.getByRole('button', { name: /^Copy/ }).click()
  const copies = page.getByTestId('plans').getByRole('link', { name: /, copy$/ })
  await expect(copies).toHaveCount(1)
  const copied = /plan\/([^/]+)/.exec((await copies.getAttribute('href'))!)![1]!
  const file = async (id: string) =>
    (await (await page.request.get(`/api/plans/${id}/file`)).json()) as { project: { name: string } }
  const [own, other] = [await file(kiln.id), await file(copied)]
  expect(other).toEqual({ ...own, project: { ...own.project, name: `${own.project.name}, copy` } })
  await page.request.delete(`/api/plans/${copied}`)
  await page.getByRole('textbox', { name: 'Find a plan' }).fill('kiln nothing-such')
  await expect(page.getByTestId('plans')).toContainText(
    'No plan has “kiln nothing-such” in its name or code.',
  )
})

test('shared with a party: they see their work and the latest dates, take it into a diary, until it is revoked', async ({
  page,
  kittiwake,
  browser,
}) => {
  await kittiwake.open('handover/share')
  await expect(page.getByText('None: nobody but you sees this plan.')).toBeVisible()
  await choose(page, 'Whose work', 'Hull crew')
  await page.getByLabel('For whom').fill('The hull foreman')
  await page.getByLabel('Until').fill('1 jan 2020')
  await expect(page.getByText('that day is past')).toBeVisible()
  await expect(page.getByTestId('make-link')).toBeDisabled()
  await page.getByLabel('Until').fill('+2w')
  await page.getByTestId('make-link').click()
  const address = (await page.getByTestId('address').textContent())!
  await expect(page.getByTestId('links').getByRole('row', { name: /The hull foreman/ })).toContainText(
    'never',
  )

  // Somebody else, who has nothing but the link.
  const guest = await (await browser.newContext({ javaScriptEnabled: false })).newPage()
  await guest.goto(address)
  await expect(guest.getByRole('heading', { name: 'Kittiwake refit' })).toBeVisible()
  const row = guest.getByRole('row').filter({ hasText: 'H30' })
  // Its latest finish is the one that the plan itself has.
  await kittiwake.open('network')
  await kittiwake.select('H30')
  const late = await page.evaluate(
    async (id) => (await (await fetch(`/api/plans/${id}/files/csv`)).text()).split(/\r?\n/),
    kittiwake.id,
  )
  const at = late[0]!.split(',').findIndex((head) => /late.?finish/i.test(head))
  const [, month, day] = /^\d{4}-(\d\d)-(\d\d)/.exec(
    late.find((line) => /(^|,)H30(,|$)/.test(line))!.split(',')[at]!,
  )!
  const words = `${Number(day)} ${['', 'Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul'][Number(month)]}`
  await expect(row.getByRole('cell').nth(4)).toContainText(words)
  await expect(guest.getByText('Overhaul main engine')).toHaveCount(0)
  const [diary] = await Promise.all([
    guest.waitForEvent('download'),
    guest.getByRole('link', { name: /iCalendar/ }).click(),
  ])
  expect(await readFile(await diary.path(), 'utf8')).toContain('SUMMARY:H30 Renew wasted plating')

  await kittiwake.open('handover/share')
  const link = page.getByTestId('links').getByRole('row', { name: /The hull foreman/ })
  await expect(link).not.toContainText('never')
  await link.getByRole('button', { name: 'Revoke' }).click()
  await expect(link).toHaveCount(0)
  await guest.goto(address)
  await expect(guest.getByText('Nothing is behind this address.')).toBeVisible()
  await expect(guest.getByText('Kittiwake')).toHaveCount(0)
})
