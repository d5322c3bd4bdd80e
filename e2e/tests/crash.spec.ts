import { execFileSync } from 'node:child_process'
import { fileURLToPath } from 'node:url'
import { expect, test } from './plan.ts'

const cli = (...args: string[]): Record<string, unknown> =>
  JSON.parse(
    execFileSync(
      process.execPath,
      [fileURLToPath(new URL('../../cli/bin/geodrome.mjs', import.meta.url)), ...args],
      { encoding: 'utf8' },
    ),
  ) as Record<string, unknown>
const kittiwakeFile = fileURLToPath(new URL('../../demo/kittiwake.geodrome.json', import.meta.url))

test('get to 1 July for the least money, see why, and make it a scenario that finishes there', async ({
  page,
  kittiwake,
}) => {
  await kittiwake.open('forecast/crash')
  const title = page.getByTestId('crash-title')
  // The required finish is what is asked for.
  await expect(title).toHaveText('Thu 1 Jul costs 8,400 EUR in crashing.', { timeout: 30_000 })
  await expect(page.getByTestId('crash-least')).toContainText('The least total is at Fri 2 Jul')
  const steps = page.getByTestId('crash-steps').getByRole('row')
  await expect(steps.nth(2)).toContainText('U60')
  await expect(steps.nth(2)).toContainText('3 d → 2 d')
  await expect(steps.nth(2)).toContainText('evening shift of fitters')
  // Cheaper-looking work was tried: the tide takes its time up.
  await expect(steps.nth(2)).toContainText('saves nothing, a calendar takes the time up')
  const bill = page.getByTestId('crash-bill')
  await expect(bill.getByRole('row').filter({ hasText: 'U80' })).toContainText('3,600')
  await expect(bill.getByRole('row').filter({ hasText: 'Damages' })).toContainText('−8,000')
  // How sure that is, on the same draws with and without crashing, and whom it asks too much of.
  await expect(page.getByTestId('crash-simulated')).toContainText(
    /80 of 100 iterations finish by .*, planned is Thu 1 Jul; not crashed by .*Thu 1 Jul is kept in .* of 100, not crashed in .* of 100/,
    { timeout: 30_000 },
  )
  await expect(page.getByText('Nobody is asked for more than there is who was not before.')).toBeVisible()
  await expect(page.getByText('U10 waits for Spring tides until Sun 20 Jun')).toBeVisible()

  await page.getByRole('textbox', { name: 'Finish by' }).fill('29 jun')
  await page.keyboard.press('Enter')
  await expect(title).toHaveText('Tue 29 Jun costs 21,000 EUR in crashing.')
  await page.getByRole('textbox', { name: 'Finish by' }).fill('soonish')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('alert')).toContainText('soonish')
  await page.getByRole('textbox', { name: 'Finish by' }).fill('fri 25 jun')
  await page.keyboard.press('Enter')
  await expect(title).toHaveText('Fri 25 Jun cannot be reached: the earliest is Mon 28 Jun, for 30,300 EUR.')

  await page.getByRole('radio', { name: 'within a budget' }).check()
  await page.getByRole('textbox', { name: 'Budget for crashing' }).fill('9,000')
  await page.keyboard.press('Tab')
  await expect(title).toHaveText('Thu 1 Jul costs 8,400 EUR in crashing.')
  await page.getByTestId('crash-scenario').click()
  await expect(page).toHaveURL(/scenarios/)
  const { plan } = (await (await page.request.get(`/api/plans/${kittiwake.id}`)).json()) as {
    plan: { scenarios: { id: string; name: string }[] }
  }
  const made = plan.scenarios.find(({ name }) => name === 'Crashed to Thu 1 Jul')
  expect(made).toBeDefined()
  await expect(page.getByRole('heading', { level: 1 }).last()).toBeVisible()
})

test('crash data typed by a stranger: what cannot be says so at its row, and the plan goes on', async ({
  page,
  kiln,
}) => {
  await kiln.open('forecast/crash')
  const shortest = page.getByRole('textbox', { name: 'Shortest duration of K40' })
  await shortest.fill('9 d')
  await page.keyboard.press('Enter')
  const row = page.getByTestId('crash-data').getByRole('row').filter({ hasText: 'K40' })
  await expect(row.getByRole('alert')).toContainText('longer than its 5 d')
  await shortest.fill('half')
  await page.keyboard.press('Enter')
  await expect(row.getByRole('alert')).toContainText('half')
  await shortest.fill('3d')
  await page.keyboard.press('Enter')
  await expect(row.getByRole('alert')).toHaveCount(0)
  const cost = page.getByRole('textbox', { name: 'Cost of K40 at its shortest' })
  await cost.fill('1,200')
  await page.keyboard.press('Enter')
  await expect(row).toContainText('600')
  await cost.fill('dear')
  await page.keyboard.press('Enter')
  await expect(row.getByRole('alert')).toContainText('“dear” is no amount of money')
  await cost.fill('1200')
  await page.keyboard.press('Enter')
  await page.getByRole('textbox', { name: 'Normal cost of K40' }).fill('5000')
  await page.keyboard.press('Enter')
  await expect(row.getByRole('alert')).toContainText('slope is negative')
  await page.getByRole('button', { name: 'Done' }).click()
  await expect(page.getByTestId('crash-failure')).toContainText('slope is negative')
  await page.getByTestId('crash-edit').click()
  await page.getByRole('textbox', { name: 'Normal cost of K40' }).fill('0')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'Done' }).click()
  await page.getByRole('textbox', { name: 'Finish by' }).fill('16 mar')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('crash-title')).toHaveText('Tue 16 Mar costs 1,200 EUR in crashing.')
  await expect(page.getByText('Proven: no other choice costs less')).toBeVisible()
})

test('PERT: its finish is the command line’s, a missed tide is named, dates are asked as one types them', async ({
  page,
  kittiwake,
}) => {
  await kittiwake.open('forecast/pert')
  await expect(page.getByTestId('pert-title')).toHaveText('Expected on Thu 22 Jul, planned Mon 5 Jul.')
  const report = cli('pert', kittiwakeFile, '--by', '2027-08-09') as {
    finish: string
    probability: number
    paths: unknown[]
  }
  expect(report.finish.slice(0, 10)).toBe('2027-07-22')
  await expect(page.getByTestId('pert-missed')).toContainText('U10 misses Sun 20 Jun')
  const by = page.getByRole('textbox', { name: 'How sure of' })
  await by.fill('9 aug')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('pert-answer')).toContainText(
    `Mon 9 Aug is kept in ${Math.round(report.probability * 100)} of 100`,
  )
  await by.fill('31 feb')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('alert')).toBeVisible()
  await page.getByRole('button', { name: 'back to the required finish' }).click()
  await expect(page.getByTestId('pert-answer')).toContainText('Thu 1 Jul is kept in fewer than 1 of 100')
  await expect(page.getByTestId('pert-paths').getByRole('button', { name: 'H30' }).first()).toBeVisible()
  await page.getByTestId('pert-paths').getByRole('button', { name: 'H30' }).first().click()
  await expect(page).toHaveURL(/network/)
})
