import { readFile } from 'node:fs/promises'
import { expect, test } from './plan.ts'

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
  await page.getByRole('textbox', { name: 'Find a plan' }).fill('kiln nothing-such')
  await expect(page.getByTestId('plans')).toContainText(
    'No plan has “kiln nothing-such” in its name or code.',
  )
})
