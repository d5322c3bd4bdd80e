import { execFileSync } from 'node:child_process'
import ExcelJS from 'exceljs'
import { fileURLToPath } from 'node:url'
import { expect, test, type Desk } from './plan.ts'

interface Stored {
  project: { statusDate: string; baseline: string | null }
  activities: {
    id: string
    code: string
    duration: number
    promise: unknown
    progress: Record<string, unknown>
  }[]
  baselines: { id: string; name: string; activities: Record<string, { finish: string }> }[]
  periods: { statusDate: string; finish: string; dates: Record<string, [string, string]> }[]
}
const planOf = async (desk: Desk): Promise<Stored> => (await desk.onServer()).plan as unknown as Stored
const schedule = async (desk: Desk, ...args: string[]) =>
  JSON.parse(
    execFileSync(
      process.execPath,
      [fileURLToPath(new URL('../../cli/bin/geodrome.mjs', import.meta.url)), 'schedule', '-', ...args],
      {
        encoding: 'utf8',
        input: await (await desk.page.request.get(`/api/plans/${desk.id}/file`)).text(),
        stdio: ['pipe', 'pipe', 'ignore'],
      },
    ),
  ) as {
    finish: string
    activities: Record<string, { finish: string }>
    variance: { finish: number; activities: Record<string, { finish: number | null }> }
  }
const say = async ({ page }: Desk, cell: string, text: string): Promise<void> => {
  const field = page.getByLabel(cell, { exact: true })
  await field.fill(text)
  await field.press('Tab')
}

test('the weekly round: what is asked is answered by typing, what it moves is seen first, kept as a period, and taken back to the letter', async ({
  page,
  update,
}) => {
  const before = await planOf(update)
  await update.open('progress')
  await expect(page.getByTestId('update-title')).toContainText(
    '28 activities are asked about, none are answered',
  )
  await say(update, 'E40, started', '10 may')
  await say(update, 'E40, left or percent', '4 d')
  await say(update, 'W20, finished', '12 may')
  await say(update, 'L30, finished', 'as planned')
  await say(update, 'P50, left or percent', '65 %')
  await say(update, 'L40, started', 'not yet')
  // What makes no sense is said at the cell, and nothing of it is taken.
  await say(update, 'E30, left or percent', '120 %')
  await expect(page.getByTestId('asked-E30')).toContainText('120 % is more than all of it')
  await say(update, 'E30, left or percent', '0')
  await expect(page.getByTestId('asked-E30')).toContainText('nothing is left: say when it finished')
  await expect(page.getByTestId('update-title')).toContainText(
    '28 activities are asked about, 5 are answered',
  )
  await say(update, 'C40, finished', '4 may')
  await expect(page.getByTestId('asked-C40')).toContainText(
    'it cannot finish Tue 4 May 24:00, before it started',
  )
  await expect(page.getByTestId('update-title')).toContainText(
    '28 activities are asked about, 5 are answered',
  )
  // A reload loses nothing of it.
  await page.reload()
  await expect(page.getByLabel('E40, left or percent', { exact: true })).toHaveValue('4 d')
  await say(update, 'L50, promised', 'sat 29 may 12:00')
  await page.getByRole('button', { name: 'It means the working time before, Fri 28 May 15:45' }).click()
  await expect(page.getByLabel('L50, promised', { exact: true })).toHaveValue('28 May')
  await expect(page.getByTestId('asked-L50').getByTestId('odd')).toHaveCount(0)

  const foreseen = (await page.getByTestId('update-finish').textContent())!
  await page.getByTestId('keep-update').click()
  await expect(update.news).toContainText('update for Mon 17 May')
  await expect(update.stored).toContainText(/^Stored \d/)
  const after = await planOf(update)
  expect(after.project.statusDate).toBe('2027-05-17T07:00')
  expect(after.periods).toHaveLength(before.periods.length + 1)
  const by = Object.fromEntries(after.activities.map((a) => [a.code, a]))
  expect(by.W20!.progress).toMatchObject({ actualFinish: '2027-05-12', percent: 100 })
  expect(by.E40!.progress).toMatchObject({ remaining: 4 * 480 })
  expect(by.L40!.progress).toMatchObject({ actualStart: null })
  expect(by.L50!.duration).toBe(before.activities.find(({ code }) => code === 'L50')!.duration)
  // The finish that was foreseen, the one on screen, the one in the period and the program’s own are one.
  const { finish, activities } = await schedule(update)
  expect(after.periods.at(-1)!.finish).toBe(finish)
  expect(foreseen).toContain((await update.finish.textContent())!.trim())
  for (const [id, [, kept]] of Object.entries(after.periods.at(-1)!.dates))
    expect(kept).toBe(activities[id]!.finish)

  await page.getByRole('tab', { name: 'Periods' }).click()
  await expect(page.getByTestId('periods-title')).toContainText('5 updates kept, the last for 17 May')
  await page.getByTestId('take-back-update').click()
  await expect(page.getByTestId('periods-title')).toContainText('4 updates kept')
  await expect(update.stored).toContainText(/^Stored \d/)
  expect(await planOf(update)).toEqual(before)
})

test('work out of sequence is asked about in place: both readings and each way of mending it with its finish', async ({
  page,
  update,
}) => {
  await update.open('progress')
  await page.getByRole('combobox', { name: 'Say something about another activity' }).click()
  await page.getByRole('option', { name: 'H40 Coat underwater hull' }).click()
  await say(update, 'H40, started', '12 may 07:00')
  const row = page.getByTestId('asked-H40')
  await expect(row.getByTestId('odd').first()).toContainText('H40 started Wed 12 May')
  await expect(page.getByTestId('update-title')).toContainText('1 answer needs a decision')
  const ways = row.getByTestId('odd').first()
  await expect(ways).toContainText(/the work is followed.*finish then/s)
  await expect(ways.getByRole('button', { name: /remove the link/ })).toBeVisible()
  // The missing actual is an answer, not an edit of the plan: it is part of this update.
  const revision = (await update.onServer()).revision
  const missing = ways.getByRole('button', { name: /was finished by then/ })
  const code = (await missing.textContent())!.trim().split(' ')[0]!
  await missing.click()
  await expect(page.getByLabel(`${code}, finished`, { exact: true })).toHaveValue('12 May')
  expect((await update.onServer()).revision).toBe(revision)
  // What is still odd may stay for a reason; Review knows it then.
  const odd = page.getByTestId('odd').first()
  const question = (await odd.locator('strong').textContent())!
  await odd.getByTestId('accept-odd').fill('the coaters were early, and it did no harm')
  await page.keyboard.press('Tab')
  await expect(page.getByText(question)).toHaveCount(0)
  const { acceptances } = (await update.onServer()).plan as unknown as { acceptances: { reason: string }[] }
  expect(acceptances.map(({ reason }) => reason)).toEqual(['the coaters were early, and it did no harm'])
})

test('how much is done is said by steps, by time or by amounts; groups come to what their work comes to, as the project weighs it', async ({
  page,
  update,
}) => {
  await update.open('progress')
  const done = page.getByTestId('done')
  await expect(done).toContainText('45 % done, by')
  await page.getByRole('button', { name: 'H30, its steps' }).click()
  const row = page.getByTestId('asked-H30')
  await expect(row.getByTestId('steps')).toContainText('2 of 4, 50 % by their weights')
  await row.getByText('Seams welded, counts 4').click()
  await expect(page.getByLabel('H30, left or percent', { exact: true })).toHaveValue('90 %')
  await say(update, 'E30, left or percent', '31 of 30')
  await expect(page.getByTestId('asked-E30')).toContainText('31 of 30 is more than all of it')
  await say(update, 'E30, left or percent', '18 of 30 cables')
  await expect(page.getByLabel('E30, left or percent', { exact: true })).toHaveValue('60 %')
  await say(update, 'L50, left or percent', 'by time')
  await expect(page.getByLabel('L50, left or percent', { exact: true })).toHaveValue(/^\d+ %$/)
  await page.getByTestId('keep-update').click()
  await expect(update.stored).toContainText(/^Stored \d/)
  const h30 = (await planOf(update)).activities.find(({ code }) => code === 'H30')!
  const { checklist } = h30 as unknown as { checklist: { done: boolean }[] }
  expect([h30.progress.percent, ...checklist.map((step) => step.done)]).toEqual([90, true, true, true, false])

  // Weighed otherwise it is another share, and says so.
  const before = await done.textContent()
  await done.getByRole('button').click()
  await page.getByText('number of activities', { exact: true }).click()
  await expect(done).toContainText('by number of activities')
  await expect(done).not.toHaveText(before!.replace('duration', 'number of activities'))
  await page.getByRole('tab', { name: 'Variance' }).click()
  await page.getByRole('combobox', { name: 'Order' }).click()
  await page.getByRole('option', { name: 'by group' }).click()
  const hull = page.getByTestId('variance-groups').getByRole('row').filter({ hasText: 'Arrival & docking' })
  await expect(hull.getByRole('cell').last()).toHaveText('100 %')
})

test('what was agreed is frozen, measured against, shown as brackets, and cannot vanish while it is compared with', async ({
  page,
  kittiwake,
}) => {
  await kittiwake.open('progress/variance')
  await expect(page.getByText('Nothing was agreed yet.')).toBeVisible()
  await page.getByRole('button', { name: 'To the baselines' }).click()
  await page.getByLabel('Name of the new baseline').fill('Signed')
  await page.getByTestId('freeze').click()
  await expect(page.getByTestId('baselines-title')).toHaveText('Compared with Signed.')
  await expect(kittiwake.news).toContainText('baseline Signed frozen')
  await page.getByText('brackets on the time drawing').click()
  await kittiwake.stage('Network')
  await expect(page.getByTestId('brackets')).toHaveCount(1)
  await page.keyboard.press('Control+k')
  await page.keyboard.type('U80 5d')
  await page.keyboard.press('Enter')
  await expect(kittiwake.news).toContainText('U80')

  await kittiwake.stage('Progress')
  await page.getByRole('tab', { name: 'Variance' }).click()
  await expect(page.getByTestId('variance-title')).toContainText('is 2 d later than Signed: Mon 5 Jul 15:45')
  const row = page.getByTestId('variance-rows').getByRole('row').filter({ hasText: 'Clean ship' })
  await expect(row).toContainText('+2 d')
  await expect(row).toContainText('its own, reaches the finish')
  await expect(kittiwake.stored).toContainText(/^Stored \d/)
  const { baselines, activities } = await planOf(kittiwake)
  const { variance } = await schedule(kittiwake, '--baseline', baselines[0]!.id)
  expect(variance.finish).toBe(960)
  expect(variance.activities[activities.find(({ code }) => code === 'U80')!.id]!.finish).toBe(960)

  // Released first, then removed; each can be undone.
  await page.getByRole('tab', { name: 'Baselines' }).click()
  await expect(page.getByTestId('remove-baseline')).toHaveCount(0)
  await page.getByTestId('release').click()
  await page.getByTestId('remove-baseline').click()
  await expect(page.getByTestId('baselines-title')).toHaveText('Nothing is frozen yet.')
  await page.keyboard.press('Control+z')
  await expect(page.getByTestId('baseline')).toHaveCount(1)
})

test('promises stand by promiser with what became of them, and one that is withdrawn leaves the planned duration', async ({
  page,
  update,
}) => {
  await update.open('progress/promises')
  await expect(page.getByTestId('promises-title')).toHaveText('3 promises: 3 open.')
  await expect(page.getByTestId('promiser').filter({ hasText: 'joiners' })).toContainText(
    'past, and not done',
  )
  await expect(page.getByTestId('promiser').filter({ hasText: 'deck crew' })).toContainText(
    'not started: a wish',
  )
  const before = await planOf(update)
  await update.stage('Network')
  await update.select('H30')
  await expect(
    page.getByTestId('promise-mark').filter({ hasText: 'H30 promised for Sat 22 May 12:00 by platers' }),
  ).toHaveCount(1)
  await update.stage('Progress')
  await page.getByRole('tab', { name: 'Promises' }).click()
  const platers = page.getByTestId('promiser').filter({ hasText: 'platers' })
  await platers.getByRole('button', { name: 'Withdraw' }).click()
  await expect(page.getByTestId('promises-title')).toHaveText('2 promises: 2 open.')
  await expect(update.stored).toContainText(/^Stored \d/)
  const after = await planOf(update)
  const without = (plan: Stored) => plan.activities.map((a) => ({ ...a, promise: null }))
  expect(without(after)).toEqual(without(before))
})

test('update sheets go out by owner and come back: what is sound becomes answers, the rest is listed, and the weeks ahead say what blocks', async ({
  page,
  update,
}) => {
  await update.open('progress')
  const sent = await page.request.get((await page.getByTestId('update-sheets').getAttribute('href'))!)
  const book = new ExcelJS.Workbook()
  await book.xlsx.load((await sent.body()) as never)
  const electricians = book.getWorksheet('Electricians')!
  expect(electricians.getRow(1).getCell(5).value).toBe('started')
  const rowOf = (code: string) => {
    for (let r = 2; r <= electricians.rowCount; r++)
      if (electricians.getRow(r).getCell(1).value === code) return electricians.getRow(r)
    throw new Error(code)
  }
  rowOf('E40').getCell(5).value = '10 may 07:00'
  rowOf('E40').getCell(7).value = '4 d'
  rowOf('E30').getCell(7).value = 'nearly done'
  electricians.addRow(['E99', 'Something of ours', '', '', '', '12 may'])
  await page.getByTestId('returned-file').setInputFiles({
    name: 'electricians.xlsx',
    mimeType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    buffer: Buffer.from(await book.xlsx.writeBuffer()),
  })
  const returned = page.getByTestId('returned')
  await expect(returned).toContainText('1 line says something new')
  await expect(returned).toContainText('started 10 May, 4 d left')
  const problems = page.getByTestId('returned-problems')
  await expect(problems).toContainText('E30: “nearly done”')
  await expect(problems).toContainText('there is no activity E99 in the plan')
  await page.getByTestId('take-returned').click()
  await expect(page.getByLabel('E40, left or percent', { exact: true })).toHaveValue('4 d')
  await expect(page.getByTestId('update-title')).toContainText('1 is answered')

  await page.getByRole('tab', { name: 'Look-ahead' }).click()
  await expect(page.getByTestId('ahead-title')).toHaveText(
    '51 activities in the next 3 weeks, 31 are blocked.',
  )
  const hull = page.getByTestId('ahead-owner').filter({ hasText: 'Hull crew' })
  await expect(hull.getByRole('row').filter({ hasText: 'H40' })).toContainText('S10 Examine hull in dock')
  await page.getByLabel('Weeks to look ahead').fill('1')
  await page.keyboard.press('Tab')
  await expect(page.getByTestId('ahead-title')).toContainText('in the next 1 week')
  const csv = await (
    await page.request.get((await page.getByTestId('ahead-csv').getAttribute('href'))!)
  ).text()
  const shown = Number(/^\d+/.exec((await page.getByTestId('ahead-title').textContent())!)![0])
  expect(csv.trim().split('\n')).toHaveLength(shown + 1)
})

test('what was frozen opens as the plan that it was, reasons and all: nothing can be changed in it, and it can become a scenario', async ({
  page,
  update: may,
}) => {
  const figure = page.getByTestId('planned-finish')
  await may.open('progress/baselines')
  // What came with the file holds dates only, and says so.
  await page.getByTestId('open-baseline').first().click()
  await expect(page.getByRole('alert')).toContainText('came with the file: it holds dates, and not the plan')
  await page.getByLabel('Put this line away').click()
  const before = await figure.textContent()
  await page.getByLabel('Name of the new baseline').fill('Signed, at last')
  await page.getByTestId('freeze').click()
  await expect(may.news).toContainText('Signed, at last')

  await may.stage('Network')
  await page.keyboard.press('Control+k')
  await page.keyboard.type('U80 9d')
  await page.keyboard.press('Enter')
  await expect(figure).not.toHaveText(before!)
  const after = await figure.textContent()
  await expect(may.stored).toContainText(/^Stored \d/)

  await may.stage('Progress')
  await page.getByRole('tab', { name: 'Baselines' }).click()
  await page.getByTestId('open-baseline').first().click()
  await expect(page.getByTestId('kept-line')).toContainText('As it was when Signed, at last was frozen')
  await expect(figure).toHaveText(before!)
  // Its reasons are of then: the ladder of U80 has the duration that it had.
  await may.stage('Network')
  await page.keyboard.press('Control+k')
  await page.keyboard.type('U80')
  await page.keyboard.press('Enter')
  await expect(may.lens).toContainText('3 d · Thu 15 Jul 07:00 → Mon 19 Jul 15:45')
  const field = await may.begin('U80', 'Duration', '4d')
  await field.press('Enter')
  await expect(page.getByText('the plan as it was: nothing can be changed in it').first()).toBeVisible()
  expect((await planOf(may)).activities.find(({ code }) => code === 'U80')!.duration).toBe(9 * 480)

  // What changed since, measured; then the same as a scenario of the plan as it is.
  await page.getByTestId('changed-since').click()
  await expect(page.getByTestId('revisions-title')).toContainText('the finish moves')
  await expect(page.getByRole('table', { name: 'Differences' })).toContainText('U80 duration')
  await expect(figure).toHaveText(after!)
  await page.getByRole('button', { name: 'The plan ▾' }).click()
  await page.getByText('Signed, at last', { exact: true }).click()
  await page.getByTestId('kept-scenario').click()
  await expect(figure).toHaveText(before!)
  await expect(page.getByRole('button', { name: 'As in Signed, at last ▾' })).toBeVisible()
  await page.keyboard.press('Control+k')
  await page.keyboard.type('U80')
  await page.keyboard.press('Enter')
  await expect(may.lens).toContainText('3 d · Thu 15 Jul 07:00 → Mon 19 Jul 15:45')
})
