import { expect, test } from './plan.ts'

test('three alternatives, one decision, promoted: side by side on the same draws, each its own column', async ({
  page,
  kittiwake,
}) => {
  test.slow()
  await kittiwake.open('scenarios')
  const table = page.getByTestId('side-by-side')
  await expect(table.getByRole('columnheader')).toHaveText([
    /The plan/,
    /Double shift on the hull/,
    /Laboratory prefabricated ashore/,
    /Two surveyors/,
  ])
  await page.getByTestId('run-both').click()
  const row = (name: string | RegExp) =>
    table.getByRole('row').filter({ has: page.getByRole('rowheader', { name }) })
  await expect(row('P80')).not.toContainText('not run', { timeout: 90_000 })
  await expect(page.getByTestId('run-both')).toHaveCount(0)
  // Which to choose: what the runs of the server say, the earliest 80 % date, of equals to the day the cheapest.
  const runs = (await (await page.request.get(`/api/plans/${kittiwake.id}/runs`)).json()) as {
    id: string
    input: { scenario: string | null }
  }[]
  const p80 = new Map<string | null, string>()
  for (const { id, input } of runs) {
    const { result } = (await (await page.request.get(`/api/plans/${kittiwake.id}/runs/${id}`)).json()) as {
      result: { percentiles: Record<string, string> }
    }
    p80.set(input.scenario, result.percentiles['80']!)
  }
  expect([...p80.keys()].sort()).toEqual([null, 's1', 's2', 's3'].sort())
  const names = { s1: 'Double shift on the hull', s2: 'Laboratory prefabricated ashore', s3: 'Two surveyors' }
  const earliest = [...p80]
    .filter(([id]) => id !== null)
    .map(([, date]) => date.slice(0, 10))
    .sort()[0]
  const early = [...p80].filter(([, date]) => date.startsWith(earliest!)).map(([id]) => names[id as 's1'])
  const chosen = /^(.*) brings the 80 % date from/.exec((await page.getByTestId('choice').textContent())!)![1]
  expect(early).toContain(chosen)
  await expect(page.getByTestId('choice-more').last()).toContainText(
    'None of the 4 keeps Thu 1 Jul as planned.',
  )

  // What the money of the second is made of adds up to what it costs more.
  await page.getByTestId('scenario-name').filter({ hasText: 'Laboratory' }).click()
  const amount = (text: string): number =>
    Number(/([+−][\d,]+)/.exec(text)![1]!.replaceAll(',', '').replace('−', '-'))
  const money = page.getByTestId('scenario-money')
  const parts = await money.locator('.fact').allTextContents()
  const total = amount((await page.getByTestId('scenario-total').textContent())!)
  expect(parts.map(amount).reduce((sum, one) => sum + one, 0)).toBe(total)
  await expect(page.getByTestId('changed-strip')).toContainText('3 activities changed')

  // Promoted as one change, and undone as one.
  await page.getByTestId('scenario-name').filter({ hasText: 'Two surveyors' }).click()
  const baselines = async (): Promise<string[]> =>
    (await kittiwake.onServer()).plan.baselines.map(({ name }) => name)
  const before = await baselines()
  await page.getByRole('checkbox', { name: 'freeze the plan as a baseline' }).click()
  await page.getByTestId('promote').click()
  await expect(table.getByRole('columnheader')).toHaveCount(3)
  const surveyed = async (): Promise<unknown> =>
    (
      (await kittiwake.onServer()).plan.activities as unknown as { code: string; calendar: string | null }[]
    ).find(({ code }) => code === 'S10')!.calendar
  await expect.poll(surveyed).toBeNull()
  // The plan as it was stays beside it.
  expect(await baselines()).toEqual([...before, 'Before Two surveyors'])
  // The runs are of the plan before it.
  await expect(page.getByTestId('run-both')).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(table.getByRole('columnheader')).toHaveCount(4)
  await expect.poll(surveyed).toBe('surveyor')
  expect(await baselines()).toEqual(before)
})

test('a change that no longer fits is named, left out and keeps from promoting', async ({
  page,
  kittiwake,
}) => {
  const { plan } = await kittiwake.onServer()
  const h40 = (plan.activities as unknown as { id: string; code: string }[]).find(
    ({ code }) => code === 'H40',
  )!.id
  await kittiwake.open('network')
  await kittiwake.row('H40').click()
  await page.keyboard.press('Delete')
  await expect(kittiwake.row('H40')).toHaveCount(0)
  await expect(kittiwake.stored).toContainText(/^(Stored|All stored)/)
  await kittiwake.stage('Scenarios')
  await expect(page.getByTestId('void')).toContainText('1 change no longer fits the plan and is left out')
  await expect(page.getByTestId('promote')).toBeDisabled()
  expect((await kittiwake.onServer()).plan.scenarioChanges).toContainEqual(
    expect.objectContaining({ change: expect.objectContaining({ key: h40 }) as unknown }),
  )
  await page
    .getByRole('button', { name: /Take this change out/ })
    .nth(1)
    .click()
  await expect(page.getByTestId('void')).toHaveCount(0)
  await expect(page.getByTestId('promote')).toBeEnabled()
})

test('what the plan changed under a scenario is said beside its change, until somebody says that it still holds', async ({
  page,
  kittiwake,
}) => {
  await kittiwake.open('network')
  await kittiwake.type('H30', 'Duration', '13d')
  await expect(kittiwake.stored).toContainText(/^Stored/)
  await kittiwake.stage('Scenarios')
  const behind = page.getByTestId('behind')
  await expect(behind).toContainText('The plan has changed under 1 change since')
  await expect(page.getByText('the plan since then: H30 Renew wasted plating, 11 d → 13 d')).toBeVisible()
  await expect(page.getByTestId('promote')).toBeEnabled()
  await page.getByRole('button', { name: /^It still holds: H30/ }).click()
  await expect(behind).toHaveCount(0)
  await expect(kittiwake.news).toContainText('in scenario Double shift on the hull: H30')
  await page.keyboard.press('Control+z')
  await expect(behind).toBeVisible()
})

test('a scenario is sent to a colleague by file and taken into their copy; of another plan it is refused', async ({
  page,
  kittiwake,
  kiln,
}) => {
  await kittiwake.open('scenarios')
  await page.getByTestId('scenario-name').filter({ hasText: 'Two surveyors' }).click()
  const [saved] = await Promise.all([
    page.waitForEvent('download'),
    page.getByTestId('save-scenario').click(),
  ])
  expect(saved.suggestedFilename()).toBe('KITE-Two-surveyors.geodrome.json')
  const file = await saved.path()
  // Here it is already; after it is discarded it can be taken in again, with its changes.
  await page.getByTestId('scenario-file').setInputFiles(file)
  const offered = page.getByTestId('offered')
  await expect(offered).toContainText('here already')
  await expect(offered.getByRole('button')).toBeDisabled()
  const before = (await kittiwake.onServer()).plan.scenarioChanges.filter(
    ({ scenario }) => scenario === 's3',
  ).length
  await page.getByTestId('discard').click()
  await page.getByTestId('scenario-file').setInputFiles(file)
  await offered.getByRole('button', { name: 'Two surveyors' }).click()
  await expect(page.getByRole('textbox', { name: 'Name of the scenario' })).toHaveValue('Two surveyors')
  await expect(kittiwake.stored).toContainText(/^Stored/)
  const { plan } = await kittiwake.onServer()
  const id = plan.scenarios.find(({ name }) => name === ('Two surveyors' as never))!.id
  expect(plan.scenarioChanges.filter(({ scenario }) => scenario === id)).toHaveLength(before)

  await kiln.open('scenarios')
  await page.getByTestId('scenario-file').setInputFiles(file)
  await expect(page.getByTestId('take-problem')).toContainText('is of another plan')
})

test('an alternative is branched from another: it has what is under it, and stays what it is when that is discarded', async ({
  page,
  kittiwake,
}) => {
  await kittiwake.open('scenarios')
  await page.getByTestId('scenario-name').filter({ hasText: 'Double shift on the hull' }).click()
  await expect(page.getByTestId('scenario-count')).toHaveText('2 changes of its own')
  const finish = (await page.getByTestId('scenario-finish').textContent())!
  const cost = (await page.getByTestId('scenario-cost').textContent())!
  await page.getByTestId('branch-from').click()
  await expect(page.getByTestId('scenario-count')).toHaveText('0 changes of its own, 2 under them')
  await expect(page.getByRole('combobox', { name: /^What it stands on/ })).toHaveAccessibleName(
    'What it stands on: Double shift on the hull',
  )
  await expect(page.getByTestId('scenario-finish')).toHaveText(finish)
  await expect(page.getByTestId('scenario-cost')).toHaveText(cost)

  await page.getByTestId('scenario-name').filter({ hasText: 'Double shift on the hull' }).click()
  await page.getByTestId('discard').click()
  await page.getByTestId('scenario-name').filter({ hasText: 'Alternative 4' }).click()
  await expect(page.getByTestId('scenario-count')).toHaveText('2 changes of its own')
  await expect(page.getByTestId('scenario-cost')).toHaveText(cost)
  await page.keyboard.press('Control+z')
  await expect(page.getByTestId('scenario-count')).toHaveText('0 changes of its own, 2 under them')
})
