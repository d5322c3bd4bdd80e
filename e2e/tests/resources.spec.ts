import { execFileSync } from 'node:child_process'
import { fileURLToPath } from 'node:url'
import { choose, expect, test, type Desk } from './plan.ts'

const cli = <T>(file: string, ...args: string[]): T =>
  JSON.parse(
    execFileSync(
      process.execPath,
      [
        fileURLToPath(new URL('../../cli/bin/geodrome.mjs', import.meta.url)),
        args[0]!,
        '-',
        ...args.slice(1),
      ],
      { encoding: 'utf8', input: file, stdio: ['pipe', 'pipe', 'ignore'] },
    ),
  ) as T
/** The plan file as the server gives it out. */
const fileOf = async ({ page, id }: Desk): Promise<string> =>
  (await page.request.get(`/api/plans/${id}/file`)).text()

test('the crane is asked for twice: find it, see the ways out tried, keep one as a scenario, and it is enough there', async ({
  page,
  kittiwake,
}) => {
  await kittiwake.open('resources')
  await expect(page.getByTestId('load-title')).toContainText('Crane on 3 days')
  const { resources } = cli<{ resources: Record<string, { overloads: { activities: string[] }[] }> }>(
    await fileOf(kittiwake),
    'load',
  )
  expect(resources.r08!.overloads.length).toBeGreaterThan(0)
  await page.getByRole('navigation', { name: 'Resources' }).getByText('Crane').click()
  await expect(page.getByTestId('resource-title')).toHaveText('Crane: 2 asked for, 1 there, on 3 days')
  const ways = page.getByTestId('way')
  await expect(ways.first()).toBeVisible()
  expect(await ways.count()).toBeGreaterThanOrEqual(3)
  const waits = ways.filter({ hasText: 'P30 waits for W30' })
  await expect(waits).toContainText('finish unchanged')
  await expect(waits).toContainText('P30’s float 5 d 6 h → 2 d 7 h 15')
  // On latest dates it is another load, and no way out is offered there.
  await choose(page, 'Load', 'on latest dates')
  await expect(page.getByTestId('way')).toHaveCount(0)
  await choose(page, 'Load', 'on planned dates')
  await waits.click()
  const before = await kittiwake.onServer()
  await page.getByTestId('way-scenario').click()

  // The plan is as it was but for the scenario; in the scenario the crane is there for both.
  await expect(page.getByLabel('Name of the scenario')).toHaveValue('P30 waits for W30')
  await expect(page.getByTestId('scenario-gain')).toHaveText('the same')
  const after = await kittiwake.onServer()
  expect(after.plan.links).toEqual(before.plan.links)
  await page.getByTestId('work-in').click()
  await kittiwake.stage('Resources')
  await expect(page.getByTestId('load-title')).not.toContainText('Crane')
})

test('what a week later costs: damages and what time costs follow the finish, in the Headline too, as the command line says', async ({
  page,
  kittiwake,
}) => {
  await kittiwake.open('resources/money')
  await expect(page.getByTestId('headline-damages')).toHaveText('12,000 EUR')
  const clause = page.getByTestId('damages').first()
  await expect(clause).toContainText(
    'From Wed 30 Jun every begun day costs 2,000, from the 15th 3,500, at most 60,000',
  )
  await expect(clause).toContainText('U90 is now Mon 5 Jul 15:45: 6 days, 12,000 EUR.')
  await kittiwake.stage('Network')
  await page.keyboard.press('Control+k')
  await page.keyboard.type('U80 8d')
  await expect(page.getByRole('option', { name: /^U80 .*3 d → 8 d/ })).toBeVisible()
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('headline-damages')).toHaveText('26,000 EUR')
  await page.getByTestId('headline-damages').click()
  await expect(clause).toContainText('13 days, 26,000 EUR')
  await expect(kittiwake.stored).toContainText(/^Stored \d/)
  const report = cli<{
    total: number
    damages: { counted: number; amount: number }[]
    activities: Record<string, { atCompletion: number }>
  }>(await fileOf(kittiwake), 'cost')
  expect(report.damages).toMatchObject([{ counted: 13, amount: 26_000 }])
  const total = Object.values(report.activities).reduce((sum, { atCompletion }) => sum + atCompletion, 0)
  await expect(page.getByTestId('money-total')).toHaveText(Math.round(total + 26_000).toLocaleString('en'))

  // The table over time ends at what it costs on either dates.
  await choose(page, 'Periods', 'by week')
  const last = page.getByTestId('over-time').getByRole('row').last()
  await expect(last).toContainText(Math.round(total).toLocaleString('en'))

  // What cannot be meant is said at the field, and nothing of it is kept.
  await clause.getByText('Change it').click()
  const steps = page
    .getByTestId('damages-steps')
    .locator('input')
    .or(page.locator('input[data-test=damages-steps]'))
  await steps.fill('2,000; 3,500 from 1')
  await steps.press('Enter')
  await expect(clause.getByRole('alert')).toContainText('not after the step before it')
  await steps.fill('1,000')
  await steps.press('Enter')
  await expect(page.getByTestId('headline-damages')).toHaveText('13,000 EUR')

  // A clause, and an activity before the others, can go while their figures stand on the screen.
  const errors: string[] = []
  page.on('pageerror', (error) => errors.push(error.message))
  await clause.getByRole('button', { name: 'Remove this clause' }).click()
  await expect(page.getByTestId('headline-damages')).toHaveCount(0)
  await kittiwake.stage('Network')
  await kittiwake.select('A20')
  await page.getByRole('treegrid').press('Delete')
  await kittiwake.stage('Resources')
  await page.getByRole('tab', { name: 'Money' }).click()
  const left = page.getByTestId('money-total')
  const without = await left.textContent()
  await page.keyboard.press('Control+z')
  await expect(left).not.toHaveText(without!)
  await page.keyboard.press('Control+z')
  await expect(page.getByTestId('headline-damages')).toHaveText('13,000 EUR')
  expect(errors).toEqual([])
})

test('a new resource: said, refused, assigned by typing in the Lens, loaded, and removed with who has it', async ({
  page,
  kiln,
}) => {
  await kiln.open('resources')
  await page.getByRole('button', { name: 'The first people' }).click()
  const name = page.locator('input[data-test=resource-name]')
  await name.fill('Bricklayers')
  await name.press('Enter')
  const price = page.locator('input[data-test=resource-price]')
  await price.fill('-4')
  await price.press('Enter')
  await expect(page.getByRole('alert')).toContainText('a price is 0 or more')
  await price.fill('1,250.50')
  await price.press('Enter')
  const available = page.locator('input[data-test=resource-available]')
  await available.fill('lots')
  await available.press('Enter')
  await expect(page.getByRole('alert')).toContainText('“lots” is not understood')
  await available.fill('1, 3 from 15 mar')
  await available.press('Enter')
  await choose(page, 'What the price is for', 'a day')

  await kiln.stage('Network')
  await kiln.select('K40')
  const field = kiln.lens.getByLabel('Resources')
  await field.fill('2 plumbers')
  await expect(kiln.lens.getByText('there is no resource “plumbers”')).toBeVisible()
  await field.fill('2 bricklayers')
  await field.press('Enter')
  await expect(kiln.news).toContainText('K40: 2 Bricklayers')

  await kiln.stage('Resources')
  await expect(page.getByTestId('resource-title')).toContainText('Bricklayers: 2 asked for, 1 there')
  await expect(page.getByText('K40 has it; they stay, without it and its cost.')).toBeVisible()
  await page.getByTestId('remove-resource').click()
  await expect(page.getByTestId('load-title')).toHaveText('Nobody is asked for yet.')
  await page.keyboard.press('Control+z')
  await expect(page.getByTestId('resource-title')).toContainText('Bricklayers: 2 asked for')
})

test('a list of resources is pasted from a sheet: understood by its headings, wrong rows named, taken as one change', async ({
  page,
  kiln,
}) => {
  await kiln.open('resources')
  await page.getByTestId('paste-resources').click()
  await page
    .getByLabel('Rows of the sheet')
    .fill('Trade\tRate\tAvailability\nBricklayers\t52 EUR/h\t3\nFitters\tsome\t2\nCrane\t118/h\t1')
  await expect(page.getByRole('alert')).toContainText('Row 3 is left out: “some” is no price')
  await page.getByRole('button', { name: 'Take 2 resources' }).click()
  await expect(page.getByRole('navigation', { name: 'Resources' })).toContainText('52 EUR an hour · 3')
  const { plan } = await kiln.onServer()
  expect((plan as unknown as { resources: { name: string }[] }).resources.map(({ name }) => name)).toEqual([
    'Bricklayers',
    'Crane',
  ])
  await page.keyboard.press('Control+z')
  await expect(page.getByTestId('load-title')).toHaveText('Nobody is asked for yet.')
})

test('levelling says who waits for whom, how far it is from the bound, and is exactly its scenario', async ({
  page,
  kittiwake,
}) => {
  await kittiwake.open('resources/levelling')
  await page.getByTestId('level').click()
  await expect(page.getByTestId('level-title')).toContainText('everything fits: finish unchanged')
  await expect(page.getByTestId('level-proof')).toContainText('No levelled plan can finish earlier')
  const report = cli<{ finish: string; activities: Record<string, { movedBy: number }> }>(
    await fileOf(kittiwake),
    'level',
  )
  const moved = Object.values(report.activities).filter(({ movedBy }) => movedBy !== 0).length
  await expect(page.getByTestId('level-table').getByRole('row').filter({ hasText: /\d d/ })).toHaveCount(
    moved,
  )
  await expect(page.getByTestId('level-table')).toContainText('Crane until')
  await page.getByTestId('level-scenario').click()
  await expect(page.getByLabel('Name of the scenario')).toHaveValue('Levelled')
  await page.getByTestId('work-in').click()
  await kittiwake.stage('Resources')
  await expect(page.getByTestId('load-title')).toHaveText(
    'There are as many people and as much plant as are asked for.',
  )
})

test('a hammock is hung between two activities, and its cost follows their dates', async ({ page, kiln }) => {
  await kiln.open()
  await kiln.selectAll('K10', 'K40')
  await page.getByRole('treegrid').focus()
  await page.keyboard.press('Alt+h')
  await expect(kiln.news).toContainText('Between K10 and K40 added')
  const perDay = kiln.lens.locator('input[data-test=per-day]')
  await perDay.fill('100')
  await perDay.press('Enter')
  await expect(kiln.news).toContainText('cost per day 0 → 100')
  await kiln.type('K40', 'Duration', '7d')
  // The edit before it was stored too: it is this one that is waited for.
  await expect(kiln.news).toContainText('5 d → 7 d')
  await expect(kiln.stored).toContainText(/^Stored \d/)
  const { hammocks } = cli<{ hammocks: Record<string, { length: number; cost: number }> }>(
    await fileOf(kiln),
    'cost',
  )
  const [hung] = Object.values(hammocks)
  expect(hung!.cost).toBe(hung!.length * 100)
  await kiln.stage('Resources')
  await page.getByRole('tab', { name: 'Money' }).click()
  await expect(page.getByTestId('hammock')).toContainText(`${(hung!.length * 100).toLocaleString('en')} EUR`)
})

test('the load of one party, of what is selected, and of a day: who asks for it is marked both ways', async ({
  page,
  kittiwake,
}) => {
  const { plan } = await kittiwake.onServer()
  const crane = plan.resources.find(({ code }) => code === 'CRAN')!
  const users = plan.assignments.filter(({ resource }) => resource === crane.id)
  await kittiwake.open('resources')
  await page.getByRole('navigation', { name: 'Resources' }).getByText('Crane').click()
  await expect(page.getByTestId('part-of-load')).toHaveCount(0)
  // A row of the crane is marked: its part is drawn in every strip, and it is what is selected in the network.
  const first = plan.activities.find(({ id }) => users.some(({ activity }) => activity === id))!
  await page.getByTestId(`asks-${first.code}`).click()
  await expect(page.getByTestId('part-of-load')).not.toHaveCount(0)
  await expect(page.getByText(`asked for by ${first.code}`, { exact: true })).toBeVisible()

  // The other way round: a day of the load says who asks for it then, and marks them.
  await page.getByTestId('look-at-day').click()
  await expect(page.getByTestId('day-title')).toContainText('2 asked for at once, 1 there')
  const asked = page.getByTestId('day-asked').getByRole('listitem')
  await expect(asked).toHaveCount(2)
  const codes = (await asked.allInnerTexts()).map((text) => text.split(' ')[0]!)
  await page.getByTestId('select-asked').click()
  await expect(page.getByText(`asked for by ${codes.join(' and ')}`, { exact: true })).toBeVisible()
  await kittiwake.stage('Network')
  for (const code of codes) await expect(kittiwake.row(code)).toHaveAttribute('aria-selected', 'true')

  // A group's part stays marked whatever is selected.
  await kittiwake.stage('Resources')
  const group = plan.groups.find(({ id }) => id === first.group)! as unknown as { name: string }
  await choose(page, 'Part of the load', `mark group ${group.name}`)
  await expect(page.getByText(`asked for by group ${group.name}`, { exact: true })).toBeVisible()
})
