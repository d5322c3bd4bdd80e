import { readFile } from 'node:fs/promises'
import { expect, test } from './plan.ts'

test('a report: what it holds is chosen, it says what the plan says, and it is saved as PDF', async ({
  page,
  kiln,
}) => {
  await kiln.open('handover')
  const report = page.getByTestId('report')
  await expect(report.getByRole('heading', { name: 'The answer' })).toBeVisible()
  const finish = (await page.getByTestId('planned-finish').textContent())!.match(/\w{3} \d+ \w{3} \d\d:\d\d/)![0]
  await expect(report).toContainText(`Planned to finish on ${finish}`)
  await page.getByTestId('part-money').getByRole('checkbox').or(page.getByTestId('part-money')).first().click()
  await expect(report.getByRole('heading', { name: 'Money' })).toHaveCount(0)
  await expect(report.getByRole('heading', { name: 'All activities' })).toBeVisible()
  const [saved] = await Promise.all([page.waitForEvent('download'), page.getByTestId('save-pdf').click()])
  expect(saved.suggestedFilename()).toBe('KILN-report.pdf')
  const bytes = await readFile(await saved.path())
  expect(bytes.toString('latin1', 0, 5)).toBe('%PDF-')
  expect(bytes.length).toBeGreaterThan(20_000)
})
