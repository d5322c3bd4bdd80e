import { isAccessible } from './isAccessible.ts'
import { expect, test } from './plan.ts'

test('every part of progress is free of serious accessibility faults in both themes', async ({
  page,
  update,
}) => {
  test.slow()
  await update.open('progress')
  for (const part of ['', '/variance', '/baselines', '/periods', '/promises']) {
    await update.go(`progress${part}`)
    await expect(page.getByRole('tab', { selected: true })).toBeVisible()
    if (part === '') {
      await page.getByLabel('E40, left or percent', { exact: true }).fill('200 %')
      await page.keyboard.press('Tab')
      await page.getByLabel('L50, promised', { exact: true }).fill('sat 29 may 12:00')
      await page.keyboard.press('Tab')
      await expect(page.getByTestId('asked-L50').getByTestId('odd')).toBeVisible()
    }
    if (part === '/variance') await expect(page.getByTestId('variance-rows')).toBeVisible()
    if (part === '/periods') await expect(page.getByTestId('drift')).toBeVisible()
    await isAccessible(page, `progress${part}`)
  }
})

test('forecast inputs, crashing, PERT and chain are free of serious accessibility faults in both themes', async ({
  page,
  kittiwake,
}) => {
  // Six parts, each looked at twice: a slow machine takes three times as long as a fast one.
  test.slow()
  await kittiwake.open('forecast/crash')
  await expect(page.getByTestId('crash-steps')).toBeVisible({ timeout: 30_000 })
  await isAccessible(page, 'crash')
  await page.getByTestId('crash-edit').click()
  await isAccessible(page, 'crash data')
  await kittiwake.go('forecast/pert')
  await expect(page.getByTestId('pert-paths')).toBeVisible()
  await isAccessible(page, 'pert')
  await kittiwake.go('forecast/estimates')
  await page.getByTestId('spreads').getByRole('button', { name: 'Change it' }).first().click()
  await isAccessible(page, 'estimates')
  await kittiwake.go('forecast/risks')
  await expect(page.getByTestId('register')).toBeVisible()
  await isAccessible(page, 'risks')
  await kittiwake.go('forecast/chain')
  await page.getByTestId('agree').click({ timeout: 30_000 })
  await expect(page.getByTestId('fever')).toBeVisible({ timeout: 30_000 })
  await isAccessible(page, 'chain')
})

test('every stage is free of serious accessibility faults in both themes', async ({ page, kittiwake }) => {
  await page.request.post(`/api/plans/${kittiwake.id}/runs`, {
    data: { kind: 'simulation', input: { iterations: 200, seed: 1 } },
  })
  // Nine stages, each looked at twice: more than one test's time on a slow machine.
  test.slow()
  const check = (where: string): Promise<void> => isAccessible(page, where)
  await page.goto('/')
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
  await check('home')
  await page.goto('/stagger')
  await expect(page.getByTestId('stagger-table')).toBeVisible()
  await check('stagger')
  await kittiwake.open('setup')
  for (const stage of [
    'setup',
    'calendars',
    'network',
    'review',
    'forecast',
    'scenarios',
    'handover/share',
  ]) {
    await kittiwake.go(stage)
    if (stage === 'network') {
      await kittiwake.select('H30')
      await expect(kittiwake.lens.getByTestId('explain-float')).toBeVisible()
      await kittiwake.type('H30', 'Duration', '9d')
      await page.getByRole('button', { name: 'By how much' }).click()
      await kittiwake.lens.getByRole('button', { name: 'Pick several that it waits for' }).click()
      await expect(page.getByTestId('effect-panel').getByRole('row').nth(1)).toBeVisible()
    }
    if (stage === 'forecast') await expect(page.locator('.figure .points path').first()).toBeAttached()
    await check(stage)
  }
  for (const part of ['integrity', 'nudge', 'points', 'shape', 'revisions', 'limits', 'record']) {
    await kittiwake.go(`review/${part}`)
    await expect(page.getByRole('heading', { level: 1 }).nth(1)).toBeVisible()
    await check(part)
  }
  for (const part of ['', '/money', '/levelling']) {
    await kittiwake.go(`resources${part}`)
    await expect(page.getByRole('tab', { selected: true })).toBeVisible()
    if (part === '') await expect(page.getByTestId('way').first()).toBeVisible()
    if (part === '/money') {
      await page.getByText('Change it').click()
      await expect(page.getByTestId('money-table')).toBeVisible()
    }
    if (part === '/levelling') {
      await page.getByTestId('level').click()
      await expect(page.getByTestId('level-table')).toBeVisible()
    }
    await check(`resources${part}`)
  }
  await kittiwake.go('network')
  await page.getByRole('button', { name: /^Plan/ }).click()
  await expect(page.getByRole('heading', { name: 'How the list is shown' })).toBeVisible()
  await check('view panel')
  await page.keyboard.press('Escape')
  for (const [pane, id] of [
    ['Map', 'map'],
    ['Arrow map', 'arrow-map'],
  ] as const) {
    await page.getByRole('button', { name: pane, exact: true }).click()
    await expect(page.getByTestId(id).locator('.vue-flow__node').first()).toBeVisible()
    if (id === 'arrow-map') await page.getByTestId(id).locator('.event button').first().press('Enter')
    await check(pane)
  }
  for (const path of ['/new', '/list']) {
    await page.goto(path)
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
    await check(path)
  }
  await kittiwake.open('network')
  await page.keyboard.press('Control+k')
  await expect(page.getByRole('combobox', { name: 'An activity' })).toBeVisible()
  await check('palette')
})

test('a choice, tabs and a pair of radios are worked by keyboard alone', async ({ page, kiln }) => {
  await kiln.open('setup')
  const choice = page.getByRole('combobox', { name: 'Work done out of sequence: holds to its links' })
  await choice.focus()
  await page.keyboard.press('Enter')
  await expect(choice).toHaveAttribute('aria-expanded', 'true')
  await page.keyboard.press('ArrowDown')
  const option = page.getByRole('option', { name: /^follows the work/ })
  await expect(choice).toHaveAttribute('aria-activedescendant', (await option.getAttribute('id'))!)
  await page.keyboard.press('Enter')
  await expect(
    page.getByRole('combobox', { name: /^Work done out of sequence: follows the work/ }),
  ).toBeVisible()
  await page.getByRole('radio', { name: /^Forward/ }).focus()
  await page.keyboard.press('ArrowDown')
  await expect(page.getByRole('radio', { name: /^Backward/ })).toBeChecked()
  await page.getByRole('button', { name: 'Leave it as it was' }).click()

  await kiln.stage('Review')
  await page.getByRole('tab', { name: 'Findings' }).focus()
  await page.keyboard.press('ArrowRight')
  await expect(page.getByRole('tab', { name: 'Path integrity' })).toBeFocused()
  await expect(page).toHaveURL(/review\/integrity/)
})
