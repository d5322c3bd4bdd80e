import { expect, test } from './plan.ts'

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
