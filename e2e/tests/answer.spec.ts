import { execFileSync } from 'node:child_process'
import { fileURLToPath } from 'node:url'
import type { APIRequestContext } from '@playwright/test'
import { demoFile, expect, test } from './plan.ts'

const cli = (...args: string[]): Record<string, never> =>
  JSON.parse(
    execFileSync(
      process.execPath,
      [fileURLToPath(new URL('../../cli/bin/geodrome.mjs', import.meta.url)), ...args],
      { encoding: 'utf8' },
    ),
  ) as never
const latestRun = async (request: APIRequestContext, plan: string): Promise<unknown> => {
  const [run] = (await (await request.get(`/api/plans/${plan}/runs`)).json()) as { id: string }[]
  return (await request.get(`/api/plans/${plan}/runs/${run!.id}`)).json()
}
const kittiwakeFile = fileURLToPath(new URL('../../demo/kittiwake.geodrome.json', import.meta.url))

test('forecast: the picture grows, the headline tells the 80 % date, and it is the command line’s', async ({
  page,
  kittiwake,
}) => {
  await kittiwake.open('forecast')
  await page.getByTestId('run').click()
  await expect(page.getByTestId('forecast-title')).toHaveText(/4 in 5 iterations finish by/, {
    timeout: 40_000,
  })
  const run = cli('simulate', kittiwakeFile, '--iterations', '5000', '--seed', '2027') as never as {
    percentiles: Record<string, string>
    plannedProbability: number
    cost: { planned: number; percentiles: Record<string, number> }
  }
  const { result: stored } = (await latestRun(page.request, kittiwake.id)) as {
    result: { percentiles: Record<string, string> }
  }
  expect(stored.percentiles).toEqual(run.percentiles)
  const day = new Date(`${run.percentiles['80']}Z`)
    .toLocaleDateString('en-GB', { weekday: 'short', day: 'numeric', month: 'short', timeZone: 'UTC' })
    .replace(',', '')
  await expect(page.getByTestId('p80').first()).toHaveText(day)
  await expect(
    page.getByText(`is kept in ${Math.round(run.plannedProbability * 100)} of 100.`).first(),
  ).toBeVisible()
  const aside = Math.round(run.cost.percentiles['80']! - run.cost.planned)
  await expect(page.getByTestId('set-aside-money')).toContainText(`${aside.toLocaleString('en')} EUR`)
  await expect(page.locator('.figure .points path').first()).toBeAttached()
  expect(await page.locator('.figure .scatterlayer .trace').first().locator('.point').count()).toBe(50)
})

test('forecast: a run can be stopped', async ({ page, kittiwake }) => {
  await kittiwake.open('forecast')
  await page.getByRole('textbox', { name: 'Iterations' }).fill('100,000')
  await page.getByRole('textbox', { name: 'Seed of the random numbers' }).focus()
  await page.getByTestId('run').click()
  await expect(page.getByTestId('forecast-title')).toHaveText(/of 100,000 iterations/)
  await page.getByTestId('stop').click()
  await expect(page.getByTestId('forecast-title')).toHaveText('How sure is the planned finish?')
})

test('scenario: branch, shorten two activities, compare on the same draws; the plan stays as it is', async ({
  page,
  kiln,
}) => {
  await kiln.open('scenarios')
  await page.getByTestId('branch').click()
  await page.getByRole('textbox', { name: 'Name of the scenario' }).fill('Second crew')
  await page.keyboard.press('Tab')
  await page.getByTestId('work-in').click()
  await kiln.type('K40', 'Duration', '3d')
  await expect(kiln.finish).toHaveText('Tue 16 Mar 16:00')
  await kiln.type('K30', 'Duration', '1d')
  await expect(kiln.finish).toHaveText('Mon 15 Mar 16:00')
  await expect(kiln.stored).toContainText(/^Stored/)

  await kiln.stage('Scenarios')
  await expect(page.getByTestId('scenario-finish')).toHaveText('Mon 15 Mar 16:00')
  await expect(page.getByTestId('scenario-gain')).toHaveText('3 d earlier')
  await expect(kiln.finish).toHaveText('Thu 18 Mar 16:00')
  await page.getByTestId('run-both').click()
  const paired = page.getByTestId('scenario-paired')
  await expect(paired).toHaveText(/\d+ of 100, the same in \d+/, { timeout: 40_000 })
  expect(Number(/^\s*(\d+)/.exec((await paired.textContent())!)![1])).toBeGreaterThan(90)

  const { plan } = await kiln.onServer()
  expect([await kiln.duration('K40'), await kiln.duration('K30')]).toEqual([2400, 960])
  // A list of two changes, not a copy.
  expect(plan.scenarioChanges).toMatchObject([
    { change: { kind: 'set', list: 'activities', key: 'k4' } },
    { change: { kind: 'set', list: 'activities', key: 'k3' } },
  ])
  await page.getByRole('button', { name: 'Promote to the plan' }).click()
  await expect(kiln.finish).toHaveText('Mon 15 Mar 16:00')
  await expect.poll(() => kiln.duration('K40')).toBe(1440)
})

test('import and export: errors by place and nothing kept; a good file goes round without loss', async ({
  page,
  kiln,
}) => {
  await page.goto('/')
  const input = page.getByLabel('Plan file to import')
  const before = (await (await page.request.get('/api/plans')).json()) as unknown[]
  const bad = JSON.parse(demoFile('kiln')) as {
    activities: Record<string, unknown>[]
    links: Record<string, unknown>[]
  }
  bad.activities[3]!.duration = 'ten days'
  bad.links[2]!.to = 'nowhere'
  await input.setInputFiles({
    name: 'bad.geodrome.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(bad)),
  })
  await expect(page.getByTestId('import-errors')).toContainText(
    '/activities/3/duration "ten days" is not a duration',
  )
  expect(await (await page.request.get('/api/plans')).json()).toHaveLength(before.length)

  await input.setInputFiles({
    name: 'kiln.geodrome.json',
    mimeType: 'application/json',
    buffer: Buffer.from(demoFile('kiln')),
  })
  await expect(kiln.finish).toHaveText('Thu 18 Mar 16:00')
  await kiln.open('handover/files')
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByTestId('export').click()])
  expect(download.suggestedFilename()).toBe('KILN.geodrome.json')
  expect(cli('schedule', (await download.path())!)).toMatchObject({ finish: '2027-03-18T16:00' })
})

test('forecast of a plan scheduled backward: it finishes where the plan does, and hammocks are forecast', async ({
  page,
  kiln,
}) => {
  await page.request.post(`/api/plans/${kiln.id}/changes`, {
    data: {
      uid: 'turn-it-around',
      client: 'test',
      author: 'Ana',
      base: 1,
      change: {
        kind: 'all',
        changes: [
          { kind: 'project', set: { direction: 'backward', finish: '2027-03-31' } },
          {
            kind: 'add',
            list: 'activities',
            before: null,
            item: {
              id: 'site',
              code: 'SITE',
              name: 'Site team',
              kind: 'hammock',
              duration: 0,
              confirmed: true,
            },
          },
        ],
      },
    },
  })
  await kiln.open('forecast')
  await expect(kiln.finish).toHaveText('Wed 31 Mar 16:00')
  await page.getByTestId('run').click()
  await expect(page.getByTestId('forecast-title')).toContainText('31 Mar', { timeout: 40_000 })
  const { result } = (await latestRun(page.request, kiln.id)) as {
    result: { percentiles: Record<string, string>; activities: Record<string, { p80: string }> }
  }
  expect(result.percentiles['95']).toBe('2027-03-31T16:00')
  expect(result.activities.site!.p80).toBe('2027-03-31T16:00')
})
