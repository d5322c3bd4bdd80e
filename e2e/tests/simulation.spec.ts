import type { Locator, Page } from '@playwright/test'
import { expect, savedAs, test } from './plan.ts'

const ran = async (page: Page): Promise<void> => {
  await page.getByTestId('run').click()
  await expect(page.getByTestId('forecast-title')).toHaveText(/4 in 5 iterations finish by/, {
    timeout: 40_000,
  })
}
const choose = async (page: Page, list: Locator, option: string | RegExp): Promise<void> => {
  await list.click()
  await page.getByRole('option', { name: option }).click()
}
const numberIn = async (of: Locator, pattern: RegExp): Promise<number> =>
  Number(pattern.exec((await of.textContent())!)![1]!.replaceAll(',', ''))

test('how sure are we of 1 July, what drives it, what should we set aside', async ({ page, kittiwake }) => {
  test.slow()
  await kittiwake.open('forecast')
  await ran(page)
  // How sure: the required date, another that is typed, a milestone, money.
  await expect(page.getByTestId('forecast-kept')).toContainText(
    /The required Thu 1 Jul is kept in \d+ of 100/,
  )
  await page.getByTestId('asked').getByRole('textbox').or(page.getByTestId('asked')).first().fill('20 aug')
  await page.keyboard.press('Enter')
  const share = page.getByTestId('asked-share')
  await expect(share).toContainText(/Kept in (7\d|8\d) of 100/)
  const { plannedProbability } = (await lookAt(page, kittiwake.id)) as { plannedProbability: number }
  await expect(page.getByTestId('forecast-kept')).toContainText(
    `in ${Math.round(plannedProbability * 100)} of 100`,
  )
  await choose(page, page.getByTestId('target'), /Cost of the plan/)
  await expect(page.getByTestId('forecast-title')).toHaveText(
    /^In 4 of 5 iterations the plan costs at most [\d,]+ EUR\.$/,
  )
  await expect(share).toHaveCount(0)
  await choose(page, page.getByTestId('target'), 'Finish of the plan')

  // What should we set aside: the parts add up to the whole, at 80 and at 90.
  const aside = page.locator('.set-aside')
  const money = async (): Promise<{ all: number; parts: number[] }> => ({
    all: await numberIn(page.getByTestId('set-aside-money'), /([\d,]+) EUR/),
    parts: await Promise.all(
      (await aside.locator('.part', { hasText: 'EUR' }).all()).map((part) =>
        numberIn(part, /([−-]?[\d,]+) EUR/),
      ),
    ),
  })
  const at80 = await money()
  expect(Math.abs(at80.parts.reduce((sum, one) => sum + one, 0) - at80.all)).toBeLessThanOrEqual(3)
  await aside.getByRole('textbox', { name: 'Confidence in 100' }).fill('90')
  await page.keyboard.press('Tab')
  await expect(async () => expect((await money()).all).toBeGreaterThan(at80.all)).toPass()

  // What drives it: each driver by a run without it.
  await page.getByTestId('find-owed').click()
  await expect(page.getByTestId('owed').getByRole('heading')).toHaveText(/What the 90 % date owes to each/)
  await expect(page.getByTestId('owed').getByRole('status')).toHaveCount(0, { timeout: 60_000 })
  const days = await Promise.all(
    (await page.getByTestId('owed').locator('.bar').all()).map((bar) => numberIn(bar, /(-?[\d.]+) d/)),
  )
  expect(days.length).toBeGreaterThan(0)
  expect(days).toEqual([...days].sort((a, b) => b - a))
})

const lookAt = async (page: Page, plan: string): Promise<unknown> => {
  const [run] = (await (await page.request.get(`/api/plans/${plan}/runs`)).json()) as { id: string }[]
  const { result } = (await (await page.request.get(`/api/plans/${plan}/runs/${run!.id}`)).json()) as {
    result: unknown
  }
  return result
}

test('the iterations in which a risk happened are looked at alone, and as a table and a file', async ({
  page,
  kittiwake,
}) => {
  await kittiwake.open('forecast')
  await ran(page)
  const { happened } = (await lookAt(page, kittiwake.id)) as { happened: Record<string, number> }
  const [first] = Object.values(happened)
  const all = await page.getByTestId('forecast-title').textContent()
  await choose(page, page.getByTestId('given'), 'where R1 happened')
  await expect(page.getByTestId('of-which')).toContainText(
    `${Math.round(first! * 5000).toLocaleString('en')} of 5,000 iterations`,
  )
  await expect(page.getByTestId('forecast-title')).toHaveText(/4 in 5 of these iterations finish by/)
  expect(await page.getByTestId('forecast-title').textContent()).not.toBe(all)
  await choose(page, page.getByTestId('given'), 'where the plan finishes after …')
  const date = page.getByRole('textbox', { name: 'Date of the condition' })
  await date.fill('one fine day')
  await date.press('Enter')
  await expect(page.locator('.answer-for').getByRole('alert')).toBeVisible()
  await date.fill('1 jan 2029')
  await date.press('Enter')
  await expect(page.getByTestId('forecast-title')).toHaveText('No iteration is like that.')
  await choose(page, page.getByTestId('given'), 'in all iterations')
  await expect(page.getByTestId('forecast-title')).toHaveText(all!)

  await page.getByTestId('as-table').click()
  const row = page.getByTestId('table').getByRole('row', { name: /^80 / })
  await expect(row).toContainText((await page.getByTestId('p80').locator('strong').textContent())!)
  await page.getByTestId('as-table').click()
  await page.getByTestId('view-bars').click()
  const file = (await savedAs(page, 'Forecast, bars', 'SVG')).bytes.toString()
  expect(file).toContain('<svg')
  expect(file.match(/class="point"/g)!.length).toBeGreaterThan(5)
})

test('a run stops by itself when its 80 % date is sure, and says how sure', async ({ page, kittiwake }) => {
  await kittiwake.open('forecast')
  await choose(page, page.getByRole('combobox', { name: 'How many iterations: so many' }), /until the 80 %/)
  const within = page.getByLabel('Sure to within, days each way')
  await within.fill('0.1')
  await page.keyboard.press('Tab')
  await ran(page)
  const runs = (await (await page.request.get(`/api/plans/${kittiwake.id}/runs`)).json()) as {
    input: { iterations: number; batch: number; until: object }
    total: number
  }[]
  const { input, total } = runs[0]!
  expect(input).toMatchObject({ iterations: total, batch: 1000, until: { days: 0.1, percent: 80 } })
  expect([total >= 5000, total % 1000]).toEqual([true, 0])
  await expect(
    page.getByText(
      new RegExp(
        `^${total.toLocaleString('en')} iterations, .*, the 80 % date sure to ± 0(\\.0\\d|\\.1)? d, on revision`,
      ),
    ),
  ).toBeVisible()
})

test('an iteration is replayed on the Ground and stepped with keys', async ({ page, kittiwake }) => {
  await kittiwake.open('forecast')
  await ran(page)
  const p80 = (await page.getByTestId('p80').locator('strong').textContent())!
  await page.getByTestId('replay').click()
  await expect(page.getByTestId('replayed')).toContainText(`finishes on ${p80}`)
  await page.getByTestId('replay-ground').click()
  const said = page.getByTestId('replay-said')
  await expect(said).toContainText(`finishes ${p80}`)
  const drawn = page.getByTestId('ground-replay').locator('path').first()
  const before = await drawn.getAttribute('d')
  expect(before!.length).toBeGreaterThan(100)
  const rank = await numberIn(said, /, ([\d,]+) of 5,000 by finish/)
  await page.keyboard.press('.')
  await expect(said).toContainText(`${(rank + 1).toLocaleString('en')} of 5,000 by finish`)
  expect(await drawn.getAttribute('d')).not.toBe(before)
  await page.keyboard.press(',')
  await expect(said).toContainText(`${rank.toLocaleString('en')} of 5,000 by finish`)
  await expect(drawn).toHaveAttribute('d', before!)
  // What the iteration has of an activity is what the server replays.
  const { activities } = (await (
    await page.request.post(`/api/plans/${kittiwake.id}/runs/${await latestId(page, kittiwake.id)}/look`, {
      data: { kind: 'replay', question: { percent: 80 } },
    })
  ).json()) as { activities: Record<string, { finish: string }> }
  const plan = (await (await page.request.get(`/api/plans/${kittiwake.id}/file`)).json()) as {
    activities: { id: string; code: string }[]
  }
  const h30 = plan.activities.find(({ code }) => code === 'H30')!
  await kittiwake.row('H30').click()
  const day = new Date(`${activities[h30.id]!.finish}Z`).getUTCDate()
  await expect(said).toContainText(new RegExp(`H30: .* to \\w+ ${day} \\w+`))
  // Once the plan is another, it says of which it is.
  await expect(page.getByTestId('replay-stale')).toHaveCount(0)
  await kittiwake.type('H30', 'Duration', '12d')
  await expect(page.getByTestId('replay-stale')).toContainText(/at revision \d+, before the last edits/)
  await page.getByTestId('end-replay').click()
  await expect(said).toHaveCount(0)
  await expect(page.getByTestId('ground-replay')).toHaveCount(0)
})

const latestId = async (page: Page, plan: string): Promise<string> =>
  ((await (await page.request.get(`/api/plans/${plan}/runs`)).json()) as { id: string }[])[0]!.id

test('two runs are laid over each other, and every input that differs is listed with what it did', async ({
  page,
  kittiwake,
}) => {
  test.slow()
  await kittiwake.open('forecast')
  await ran(page)
  await page.getByTestId('name-run').click()
  await page.getByRole('textbox', { name: 'Name of the run' }).fill('Before the yard’s word')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('kept-runs')).toContainText('Before the yard’s word')
  await kittiwake.open('network')
  await kittiwake.type('H30', 'Duration', '14d')
  await expect(kittiwake.stored).toContainText('Stored')
  await kittiwake.open('forecast')
  await expect(page.getByText('The plan has changed since its latest run.')).toBeVisible()
  await page.getByTestId('run').click()
  await expect(page.getByTestId('kept-runs').getByRole('listitem')).toHaveCount(2, { timeout: 40_000 })
  await page.getByTestId('kept-runs').getByText('lay over').click()
  const beside = page.getByTestId('beside-run')
  await expect(beside).toContainText('Beside it: Before the yard’s word')
  await expect(beside).toContainText(/of 100 paired iterations/)
  await page.getByTestId('what-differs').click()
  // A duration that is typed takes its estimate along; of the two it is the estimate that is drawn.
  await expect(beside.getByRole('status')).toContainText('2 in the later of the two', { timeout: 30_000 })
  const [estimate, duration] = ['H30 estimate', 'H30 duration'].map((what) =>
    beside.getByRole('row').filter({ hasText: what }),
  )
  await expect(duration!).toContainText('11 d → 14 d')
  await expect(duration!.getByRole('cell').last()).toHaveText('0 d')
  await expect(estimate!.getByRole('cell').last()).toHaveText(/^\+\d+(\.\d)? d$/)
  await page.reload()
  await expect(page.getByTestId('kept-runs')).toContainText('Before the yard’s word')
  await page.getByRole('button', { name: /Drop the run Before/ }).click()
  await expect(page.getByTestId('kept-runs').getByRole('listitem')).toHaveCount(1)
})
