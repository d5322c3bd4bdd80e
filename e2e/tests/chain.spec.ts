import { choose, expect, test } from './plan.ts'

test('live with an agreed chain: what to do today, why, does it hold, and the size that would', async ({
  page,
  update,
}) => {
  await update.open('forecast/chain')
  const title = page.getByTestId('chain-title')
  await expect(title).toContainText('Promised Mon 9 Aug', { timeout: 60_000 })
  // What needs somebody most is named first, with its course in the drawing.
  const today = page.getByTestId('today')
  await expect(today.first()).toContainText('H60 into U10')
  await expect(today.first()).toContainText('act')
  await expect(page.getByTestId('fever-says')).toContainText('196 % used with 78 % done: act')
  await expect(page.getByText('waits longer').first()).toBeVisible()

  // The project’s buffer by key, in the drawing: its four periods are its history.
  const beads = page.getByTestId('chain-ground').getByRole('button', { name: /^Project buffer/ })
  await beads.focus()
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('fever-says')).toContainText('leave it alone')
  await expect(page.getByTestId('fever')).toHaveAccessibleName(/19 Apr: .*26 Apr: .*3 May: .*10 May: /)
  await expect(page.getByTestId('buffer-holds')).toContainText(/enough in \d+ of 100/, { timeout: 60_000 })

  // Among all plans it stands in one picture with the others that have a chain.
  await page.goto('/')
  const row = page.getByTestId('plan-chains').getByRole('row').filter({ hasText: '10 May' }).first()
  await expect(row).toContainText('leave it alone', { timeout: 60_000 })
  await expect(row).toContainText(/\d+ buffers? says? act/)
  await row.getByRole('link').click()
  await expect(title).toContainText('Promised Mon 9 Aug', { timeout: 60_000 })
  await beads.focus()
  await page.keyboard.press('Enter')

  // Lines drawn lower turn it into something to plan for.
  const plan = page.getByRole('textbox', { name: 'Plan above' })
  await plan.fill('90 / 10')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('alert')).toHaveText('the lower line cannot lie above the upper one')
  await plan.fill('5 / 10')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('fever-says')).toContainText('plan what to do', { timeout: 30_000 })
})

test('agree a chain: sizes by rule and by hand, nonsense refused, let go and undone, as a scenario', async ({
  page,
  kittiwake,
}) => {
  await kittiwake.open('forecast/chain')
  const title = page.getByTestId('chain-title')
  await expect(title).toContainText('It could promise Mon 9 Aug', { timeout: 60_000 })
  const planned = await page.getByTestId('planned-finish').textContent()
  // It is checked once the plan says so, not by the click alone.
  await page.getByRole('radio', { name: /^Half of the cut/ }).click()
  await expect(page.getByRole('radio', { name: /^Half of the cut/ })).toBeChecked()
  await expect(title).not.toContainText('Mon 9 Aug', { timeout: 30_000 })
  await page.getByRole('radio', { name: /^Root of squares/ }).click()
  await expect(page.getByRole('radio', { name: /^Root of squares/ })).toBeChecked()
  await expect(title).toContainText('Mon 9 Aug', { timeout: 30_000 })
  const size = page.getByRole('textbox', { name: 'Size of Project' })
  await size.fill('a lot')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('alert')).toContainText('“a lot” is not a duration')
  await size.fill('4d')
  await page.keyboard.press('Enter')
  await expect(title).toContainText('It could promise Fri 16 Jul', { timeout: 30_000 })
  await page.getByTestId('agree').click()
  await expect(title).toContainText('Promised Fri 16 Jul', { timeout: 30_000 })
  await expect(page.getByTestId('fever-says')).toContainText('0 % used with 0 % done: leave it alone', {
    timeout: 30_000,
  })
  // It is a way to look at the plan: its own dates stand.
  await expect(page.getByTestId('planned-finish')).toHaveText(planned!)
  await page.getByRole('button', { name: 'Let it go' }).click()
  await expect(title).toContainText('It could promise', { timeout: 30_000 })
  await page.keyboard.press('ControlOrMeta+z')
  await expect(title).toContainText('Promised Fri 16 Jul', { timeout: 30_000 })

  await page.getByTestId('chain-scenario').click()
  await expect(page).toHaveURL(/scenarios/)
  await expect
    .poll(async () => {
      const { plan } = (await (await page.request.get(`/api/plans/${kittiwake.id}`)).json()) as {
        plan: {
          project: { chain: { agreed: { chain: string[] } } }
          scenarios: { name: string }[]
        }
      }
      return [plan.scenarios.at(-1)?.name, plan.project.chain.agreed.chain.length]
    })
    .toEqual(['Critical chain', 14])
})

test('two plans need the same welders: stagger them by priority, see why, keep it as a scenario of the later one', async ({
  page,
}) => {
  const week = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, ['08:00-16:00']]))
  const welders = { id: 'w', code: 'WLD9', name: 'Pressure welders', kind: 'people' }
  const planOf = (code: string, requiredFinish: string) => ({
    format: 'geodrome-plan',
    version: 1,
    calendars: [{ id: 'day', name: 'Day', week }],
    project: { code, name: `Boiler ${code}`, start: '2027-03-01', calendar: 'day', requiredFinish },
    activities: [
      { id: 'a', code: 'A10', name: 'Weld drums', duration: '4d' },
      { id: 'b', code: 'A20', name: 'Test under pressure', duration: '2d' },
    ],
    links: [{ from: 'a', to: 'b' }],
    resources: [{ ...welders, available: [{ from: null, amount: 2 }] }],
    assignments: [{ activity: 'a', resource: 'w', amount: 2 }],
  })
  const ids: string[] = []
  for (const plan of [planOf('BOIL1', '2027-03-12'), planOf('BOIL2', '2027-03-19')])
    ids.push(((await (await page.request.post('/api/plans', { data: plan })).json()) as { id: string }).id)
  try {
    await page.goto('/stagger')
    await choose(page, 'Staggered at', /^WLD9 Pressure welders, in 2 plans/)
    const row = (code: string) => page.getByTestId(`stagger-${code}`)
    // The one that is due first goes first: two focused days of welding, then the other's.
    await expect(page.getByTestId('stagger-title')).toHaveText('1 plan begins later, by 2 calendar days.')
    await expect(row('BOIL1')).toContainText('there is room from its start')
    await expect(row('BOIL2')).toContainText('Wed 3 Mar 2027')
    await expect(row('BOIL2')).toContainText('waits for BOIL1 until 2 Mar')

    // The other way round the other waits.
    await row('BOIL2').getByRole('button', { name: 'BOIL2 before BOIL1' }).click()
    await expect(row('BOIL1')).toContainText('waits for BOIL2 until 2 Mar')
    await expect(row('BOIL2')).toContainText('there is room from its start')
    // The answer is lost on its way; asked for once more it is the same scenario.
    await page.route(
      `**/api/plans/${ids[0]}/changes`,
      async (route) => {
        await route.fetch()
        await route.abort()
      },
      { times: 1 },
    )
    await page.getByRole('button', { name: 'Make it a scenario of BOIL1' }).click()
    await expect(row('BOIL1').getByRole('alert')).toBeVisible()
    await page.getByRole('button', { name: 'Make it a scenario of BOIL1' }).click()
    await row('BOIL1').getByRole('link', { name: 'The scenario' }).click()
    await expect(page.getByRole('columnheader', { name: 'Staggered at Pressure welders' })).toBeVisible()
    const stored = (await (await page.request.get(`/api/plans/${ids[0]}`)).json()) as {
      plan: { project: { start: string }; scenarioChanges: { change: object }[] }
    }
    expect(stored.plan.project.start).toBe('2027-03-01')
    expect(stored.plan.scenarioChanges.map(({ change }) => change)).toEqual([
      { kind: 'project', set: { start: '2027-03-03' } },
    ])
  } finally {
    for (const id of ids) await page.request.delete(`/api/plans/${id}`)
  }
})
