import { expect, test } from './plan.ts'

interface StoredPlan {
  readonly activities: { readonly code: string; readonly estimate: { low: number; high: number } | null }[]
  readonly spreads: {
    readonly name: string
    readonly low: number
    readonly high: number
    readonly scope: object
  }[]
  readonly weather: { readonly months: Record<string, number> }[]
  readonly risks: {
    readonly code: string
    readonly probability: number
    readonly impacts: { readonly delay: { high: number } }[]
    readonly mitigation: { readonly done: boolean } | null
  }[]
}

test('what may vary is typed by a stranger: points, a spread, weather; what is fixed is counted', async ({
  page,
  kittiwake,
}) => {
  const stored = async (): Promise<StoredPlan> =>
    ((await (await page.request.get(`/api/plans/${kittiwake.id}`)).json()) as { plan: StoredPlan }).plan
  await kittiwake.open('forecast/estimates')
  await expect(page.getByTestId('estimates-title')).toHaveText(
    '111 of 120 activities may vary; 9 count as fixed.',
  )
  const points = page.getByRole('textbox', { name: 'Low, likely and high of A40' })
  await points.fill('3 / 2 / 1')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('alert')).toHaveText('low, likely and high must rise in this order')
  await points.fill('1, 1.5, 3')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('estimates-title')).toHaveText(
    '112 of 120 activities may vary; 8 count as fixed.',
  )
  await expect(page.getByRole('alert')).toHaveCount(0)

  // A spread over everything reaches those that have none, and varies nothing until it says how far.
  await page.getByTestId('add-spread').click()
  const range = page.getByTestId('spread-range').getByRole('textbox').or(page.getByTestId('spread-range'))
  await range.first().fill('1.4 / 1 / 0.9')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('spreads').getByRole('alert')).toContainText('must rise')
  await range.first().fill('-10% / +40%')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('estimates-title')).toHaveText('Every activity says how long it may take.')
  await expect(page.getByTestId('spreads')).toContainText('everything: × 0.9 / 1 / 1.4')

  const lost = page.getByRole('textbox', { name: 'Days lost, by month' })
  await lost.fill('may 100%')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('weather').getByRole('alert')).toContainText('is a holiday')
  await lost.fill('may-jul 10%')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('weather').getByRole('alert')).toHaveCount(0)

  await page.getByRole('radio', { name: /by a spread/ }).check()
  await page.getByRole('textbox', { name: 'Search code, name or owner' }).fill('tide')
  await page.getByRole('textbox', { name: 'Factors for all shown' }).fill('0.5 / 1 / 2')
  const shown = page.getByTestId('estimates').locator('tbody tr')
  const count = await shown.count()
  expect(count).toBeGreaterThan(0)
  await page.getByTestId('give-many').click()
  await expect(shown).toHaveCount(0)

  await expect
    .poll(async () => {
      const { activities, spreads, weather } = await stored()
      const { estimate } = activities.find(({ code }) => code === 'A40')!
      return [
        estimate && estimate.high / estimate.low,
        spreads.at(-1)?.scope,
        spreads.at(-1)?.high,
        weather[0]?.months,
      ]
    })
    .toEqual([3, {}, 1.4, { '5': 0.1, '6': 0.1, '7': 0.1 }])
})

test('does mitigating R3 pay? It is weighed on the same draws, done, and undone', async ({
  page,
  kittiwake,
}) => {
  await kittiwake.open('forecast/risks')
  await page.getByTestId('weigh').click()
  const register = page.getByTestId('register')
  await expect(page.getByTestId('owed-R10')).toContainText('EUR', { timeout: 60_000 })
  await expect(page.getByTestId('risks-title')).toContainText('R1 moves P80 most')
  const third = register.getByRole('listitem').filter({ hasText: 'Surveyor not available' })
  await expect(third).toContainText(
    /Second surveyor on call: [\d.]+ d earlier, [\d,]+ EUR (more|less) in all/,
  )
  await third.getByRole('button', { name: 'R3' }).click()
  const fields = page.getByTestId('risk-fields')
  const done = fields.getByRole('checkbox', { name: 'it is done, and counted' })
  await done.click()
  await expect(done).toBeChecked()
  // What was found was of another plan.
  await expect(page.getByText('The plan has changed; weigh them again.')).toBeVisible()
  await expect(page.getByTestId('owed-R3')).not.toContainText('EUR more')
  await expect(third).toContainText('5 of 100')
  await page.keyboard.press('Escape')
  await page.keyboard.press('ControlOrMeta+z')
  await expect(done).not.toBeChecked()
})

test('a risk is entered: probability beyond always, impact with letters, one that brings work', async ({
  page,
  kittiwake,
}) => {
  await kittiwake.open('forecast/risks')
  await page.getByTestId('add-risk').click()
  const fields = page.getByTestId('risk-fields')
  const probability = fields.getByRole('textbox', { name: 'Probability' })
  await probability.fill('1.2')
  await page.keyboard.press('Enter')
  await expect(fields.getByRole('alert')).toContainText('1.2 is more than always; write at most 100%')
  await probability.fill('1 in 4')
  await page.keyboard.press('Enter')
  await expect(fields.getByRole('alert')).toHaveCount(0)
  await fields.getByRole('combobox', { name: 'Another activity it falls on' }).click()
  await page.getByRole('option', { name: /^H30/ }).click()
  const howMuch = fields.getByRole('textbox', { name: 'By how much, low / likely / high' })
  await howMuch.fill('a / b / c')
  await page.keyboard.press('Enter')
  await expect(fields.getByRole('alert')).toContainText('“a” is not a duration')
  await howMuch.fill('1 / 2 / 5')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('register').getByRole('listitem').last()).toContainText('1 to 5 d later')
  await expect
    .poll(async () => {
      const { plan } = (await (await page.request.get(`/api/plans/${kittiwake.id}`)).json()) as {
        plan: StoredPlan
      }
      const risk = plan.risks.at(-1)!
      return [risk.code, risk.probability, risk.impacts[0]?.delay.high]
    })
    .toEqual(['R11', 0.25, 5 * 480])
})

test('the register speaks in words: typed for figures, given another meaning, and the risks that have them go along', async ({
  page,
  kittiwake,
}) => {
  await kittiwake.open('forecast/risks')
  await page.getByTestId('register').getByRole('button', { name: 'R2', exact: true }).click()
  const fields = page.getByTestId('risk-fields')
  const probability = fields.getByRole('textbox', { name: 'Probability' })
  await probability.fill('certainly')
  await page.keyboard.press('Enter')
  await expect(fields.getByRole('alert')).toContainText('or a word: rare, unlikely, possible')
  await probability.fill('poss')
  await page.keyboard.press('Enter')
  await expect(probability).toHaveValue('possible')
  const row = page.getByTestId('register').getByRole('listitem').nth(1)
  await expect(row).toContainText('possible, 40 of 100')
  const reach = fields.getByRole('textbox', { name: 'Days of P20, low / likely / high' })
  await reach.fill('Large')
  await page.keyboard.press('Enter')
  await expect(row).toContainText('5 to 16 d later')

  // What the words mean is the plan's to say.
  await page.getByTestId('edit-scale').click()
  const scale = page.getByTestId('risk-scale')
  await scale.getByRole('textbox', { name: 'Chance that is possible' }).fill('30%')
  await page.keyboard.press('Tab')
  await expect(page.getByTestId('scale-moved')).toHaveText('1 risk with that word goes along.')
  await expect(row).toContainText('possible, 30 of 100')
  await scale.getByRole('textbox', { name: 'Another word for a chance' }).fill('Rare')
  await page.keyboard.press('Enter')
  await expect(scale.getByRole('alert')).toHaveText('“Rare” is a step of its own already')
  await scale.getByRole('textbox', { name: 'Days that are large' }).fill('6 / 4 / 20')
  await page.keyboard.press('Tab')
  await expect(scale.getByRole('alert').last()).toContainText('must rise in this order')
  const { plan } = await kittiwake.onServer()
  const risk = plan.risks.find(({ code }) => code === ('R2' as never)) as unknown as {
    probability: number
    impacts: { delay: { high: number } }[]
  }
  expect(risk.probability).toBe(0.3)
  expect(risk.impacts[0]!.delay.high % 16).toBe(0)

  // One step back takes the word and its risks back together.
  await page.keyboard.press('Control+z')
  await expect(row).toContainText('possible, 40 of 100')
})
