import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { choose, demoFile, expect, test, type Desk } from './plan.ts'
import type { Locator, Page } from '@playwright/test'

const cli = (...args: string[]): Record<string, never> =>
  JSON.parse(
    execFileSync(
      process.execPath,
      [fileURLToPath(new URL('../../cli/bin/geodrome.mjs', import.meta.url)), ...args],
      { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] },
    ),
  ) as never
const kittiwakeFile = fileURLToPath(new URL('../../demo/kittiwake.geodrome.json', import.meta.url))

const lens = (page: Page): Locator => page.getByRole('complementary', { name: 'Lens: the finding' })
const line = (page: Page, text: string | RegExp): Locator =>
  page.locator('.findings .message').filter({ hasText: text })
/** Opens Review and waits until the effects of all findings are known. */
const openReview = async (desk: Desk, part = ''): Promise<void> => {
  await desk.open(`review${part && `/${part}`}`)
  await expect(desk.page.getByText(/Reviewed after every edit/)).toBeVisible()
  await expect(desk.page.getByText(/effects being measured/)).toHaveCount(0)
}

test('the sheet is the command line’s: every check with its findings, what is clean, the way to the network and back to the same line', async ({
  page,
  kittiwake,
}) => {
  await openReview(kittiwake)
  const { findings, counts } = cli('review', kittiwakeFile) as never as {
    findings: { message: string; check: string }[]
    counts: Record<string, number>
  }
  await expect(page.getByRole('heading', { level: 1, name: /^5 findings move the answer/ })).toBeVisible()
  await expect(
    page.locator('.findings > tbody > tr:first-child .message:not(tbody.accepted .message)'),
  ).toHaveCount(Object.values(counts).filter((n) => n > 0).length)
  // Unfolded, a check lists each of its findings.
  await line(page, 'Redundant links').click()
  for (const { message } of findings.filter((f) => f.check === 'implied-link'))
    await expect(line(page, message)).toBeVisible()
  await expect(page.getByText('no dangling ends')).toBeVisible()

  await line(page, 'Calendars with different hours: 2').click()
  await page.keyboard.press('ArrowDown')
  const sentence = await page.getByTestId('finding').textContent()
  await page.getByTestId('show-network').click()
  await expect(page.getByRole('region', { name: 'From Review' })).toContainText(sentence!.trim())
  await expect(page.getByText(/of 128 shown, calendars with different hours/)).toBeVisible()
  await page.getByTestId('thread-next').click()
  await expect(page.getByRole('region', { name: 'From Review' })).toContainText('2 of 6')
  await page.getByTestId('thread-back').click()
  await expect(page.getByTestId('finding')).toHaveText(sentence!)
})

test('a repair does what its preview says, is named by what it closed, and can be undone', async ({
  page,
  kittiwake,
}) => {
  await openReview(kittiwake)
  await line(page, 'Negative float, by cause').click()
  await line(page, 'The required finish Thu 1 Jul cannot be kept').click()
  // Ways to keep the date stand before another date; what a tide would take up again is not among them.
  const ways = lens(page).getByRole('radio')
  await expect(ways.first()).toHaveAccessibleName(/^Do U60 in 1 d instead of 3 d/)
  await expect(lens(page).getByTestId('foresight')).toContainText('Mon 5 Jul 15:45 → Thu 1 Jul 15:45')
  await lens(page).getByTestId('apply').click()
  await expect(kittiwake.finish).toHaveText('Thu 1 Jul 15:45')
  await expect(page.getByTestId('pass')).toContainText('closed')
  await expect(line(page, 'The required finish Thu 1 Jul cannot be kept')).toHaveCount(0)
  await page.keyboard.press('Control+z')
  await expect(kittiwake.finish).toHaveText('Mon 5 Jul 15:45')
  await expect(line(page, 'Negative float, by cause')).toBeVisible()
})

test('work that waits for a tide is offered no other calendar', async ({ page, update }) => {
  await openReview(update)
  await line(page, 'U10 could begin').first().click()
  await expect(lens(page)).toContainText('Nothing that could be done for you')
  await expect(lens(page).getByRole('radio')).toHaveCount(0)
})

test('an open end is offered the link that was taken away just now', async ({ page, kiln }) => {
  await kiln.open()
  await kiln.select('K30')
  await kiln.lens
    .getByRole('button', { name: /^Remove the link/ })
    .first()
    .click()
  await kiln.stage('Review')
  await line(page, 'K30 has no predecessor').click()
  await expect(lens(page).getByRole('radio').first()).toHaveAccessibleName(/^Put the link back: after K20/)
  await lens(page).getByTestId('apply').click()
  await expect(line(page, 'K30 has no predecessor')).toHaveCount(0)
  expect((await kiln.onServer()).plan.links).toHaveLength(11)
})

test('all of a kind are repaired in one step, and one that is refused says why', async ({ page, update }) => {
  await openReview(update)
  await line(page, 'Redundant links').click()
  await line(page, 'U10 after H45').click()
  await lens(page).getByTestId('gather').click()
  // One of the twelve holds something back, since a date cut the other path: it is not among them.
  await expect(lens(page).getByText('11 repairs')).toBeVisible()
  await expect(lens(page).getByText('1 cannot be repaired so.')).toBeVisible()
  await lens(page).getByTestId('apply-all').click()
  await expect(line(page, /redundant but for a date/)).toBeVisible()
  await expect(line(page, 'Redundant links')).toHaveCount(0)
  await expect(update.finish).toHaveText('Mon 19 Jul 15:45')
  const { plan } = await update.onServer()
  expect(plan.links).toHaveLength(238 - 11)
  await page.keyboard.press('Control+z')
  await expect(line(page, 'Redundant links')).toBeVisible()
})

test('a finding is accepted with a reason, stays so over a reload, and comes back with what changed under it', async ({
  page,
  update,
}) => {
  await openReview(update)
  await line(page, 'L60 waits 6 d after L50').click()
  await lens(page).getByTestId('accept').click()
  await lens(page).getByTestId('accept-one').click()
  await expect(lens(page).getByRole('alert')).toContainText('say why it may stand')
  await lens(page).getByTestId('reason').fill('customs need a week')
  await lens(page).getByTestId('accept-one').click()
  await expect(line(page, 'L60 waits 6 d after L50')).toHaveCount(0)
  await expect(page.getByTestId('accepted')).toContainText('1 finding with a reason')
  await expect(update.stored).toContainText(/^Stored/)
  await page.reload()
  await page.getByTestId('accepted').click()
  await expect(page.getByText('“customs need a week”')).toBeVisible()

  // Somebody else makes the lag longer: the same place, other facts.
  const { revision, plan } = await update.onServer()
  const link = plan.links.find((l) => l.reason === ('customs' as never))!
  await page.request.post(`/api/plans/${update.id}/changes`, {
    data: {
      uid: `other-${Date.now()}`,
      client: 'other',
      author: 'Bo',
      base: revision,
      change: { kind: 'set', list: 'links', key: link.id, set: { lag: 7 * 480 } },
    },
  })
  await line(page, 'L60 waits 7 d after L50').click()
  await expect(lens(page)).toContainText('Accepted before, and open again')
  await expect(lens(page)).toContainText('lag was 6 d, is 7 d')
})

test('a kept review is what later ones are measured against', async ({ page, kittiwake }) => {
  await openReview(kittiwake)
  await page.getByTestId('keep').click()
  await expect(page.getByText(/: 41 open\./)).toBeVisible()
  await line(page, 'Open ends: 2').click()
  await lens(page).getByTestId('apply').click()
  await expect(line(page, 'C70 has no successor')).toBeVisible()
  const row = page.getByRole('row').filter({ hasText: 'C70 has no successor' })
  await expect(row.getByRole('cell').last()).toHaveText('−1')
  const { plan } = await kittiwake.onServer()
  expect(plan.reviews).toMatchObject([{ counts: { 'open-end': 2 } }])
})

test('limits are the plan’s own: out of range says so, in range the findings follow', async ({
  page,
  kittiwake,
}) => {
  await openReview(kittiwake, 'limits')
  const limit = page.getByTestId('limit-merge-point')
  await limit.fill('1')
  await limit.press('Tab')
  await expect(page.getByRole('alert')).toHaveText('give a figure from 2 to 1000')
  await limit.fill('10')
  await limit.press('Tab')
  await expect(page.getByRole('alert')).toHaveCount(0)
  await page.getByRole('tab', { name: 'Findings' }).click()
  await expect(line(page, 'paths meet at U10')).toHaveCount(0)
  await page.getByRole('button', { name: 'house' }).click()
  await expect(line(page, '10 paths meet at U10')).toBeVisible()
  expect((await kittiwake.onServer()).plan.project).toMatchObject({
    review: { limits: { 'merge-point': 10 } },
  })
})

test('the path integrity test says where a delay is lost', async ({ page, kiln, update }) => {
  await openReview(kiln, 'integrity')
  await page.getByTestId('test-all').click()
  await expect(page.getByTestId('integrity-title')).toHaveText(
    'A delay of any of the 6 activities tested arrives at the finish.',
  )
  await openReview(update, 'integrity')
  await page.getByTestId('test-all').click()
  await expect(page.getByTestId('integrity-title')).toContainText(
    /of the 36 activities tested do not carry a delay to the finish/,
  )
  await expect(page.getByRole('row').filter({ hasText: 'Lay floor coverings' })).toContainText(
    'C60 stands on a date that overrides logic: 100 d',
  )
})

test('two revisions: the plan against a later file and against itself as it was, each difference with its effect', async ({
  page,
  kittiwake,
}) => {
  await openReview(kittiwake, 'revisions')
  await page.getByLabel('Plan file to compare with').setInputFiles({
    name: 'bad.json',
    mimeType: 'application/json',
    buffer: Buffer.from('{"format":"geodrome-plan","version":1,"project":{"start":"soon"}}'),
  })
  await expect(page.getByRole('alert')).toContainText(
    'bad.json is not a plan that can be compared: "soon" is not a date of 1950–2150',
  )
  await page.getByLabel('Plan file to compare with').setInputFiles({
    name: 'may.json',
    mimeType: 'application/json',
    buffer: Buffer.from(demoFile('kittiwake-may')),
  })
  await page.getByRole('button', { name: 'later', exact: true }).click()
  await expect(page.getByTestId('revisions-title')).toContainText('the finish moves 10 d later')
  await expect(page.getByRole('row').filter({ hasText: 'Calendar Spring tides' })).toContainText('10 d later')
  await page.getByRole('button', { name: /^Added/ }).click()
  await expect(page.getByRole('row').filter({ hasText: '10 activities added: C81' })).toContainText(
    '11 links',
  )

  await kittiwake.open('network')
  await page.getByLabel('Find in the list').fill('U80')
  await kittiwake.type('U80', 'Duration', '5d')
  await expect(kittiwake.stored).toContainText(/^Stored/)
  await openReview(kittiwake, 'revisions')
  await choose(page, 'The plan as it was', /^the plan before “U80 /)
  await expect(page.getByTestId('revisions-title')).toHaveText(/2 differences; the finish moves 2 d later/)
  await expect(page.getByRole('row').filter({ hasText: 'U80 duration' })).toContainText('2 d later')
})

test('the record comes as a workbook, as CSV and as a page to print', async ({ page, kittiwake }) => {
  await openReview(kittiwake, 'record')
  await expect(page.getByText('The network is not fit to forecast.')).toBeVisible()
  const [book] = await Promise.all([page.waitForEvent('download'), page.getByTestId('xlsx').click()])
  expect(book.suggestedFilename()).toBe('KITE-review.xlsx')
  const [csv] = await Promise.all([page.waitForEvent('download'), page.getByTestId('csv').click()])
  const rows = readFileSync((await csv.path())!, 'utf8')
    .trim()
    .split('\r\n')
  expect(rows).toHaveLength(
    1 + (cli('review', kittiwakeFile) as never as { findings: unknown[] }).findings.length,
  )
  await page.emulateMedia({ media: 'print' })
  await expect(page.getByRole('navigation', { name: 'Stages in working order' })).toBeHidden()
  await expect(page.getByRole('heading', { level: 1, name: /^Kittiwake refit: review of/ })).toBeVisible()
  expect(await page.evaluate(() => document.documentElement.scrollHeight)).toBeGreaterThan(1200)
})

test('the nudge test: which activities move the finish, by any step, and what takes the others’ delay up', async ({
  page,
  kiln,
  kittiwake,
}) => {
  await openReview(kiln, 'nudge')
  const row = (name: string): Locator => page.getByTestId('nudges').getByRole('row').filter({ hasText: name })
  await expect(page.getByTestId('nudge-title')).toContainText(
    'move the finish when they take a day of their own longer',
  )
  const critical = kiln.page.getByTestId('nudges').getByRole('row').filter({ hasText: 'Lay new lining' })
  await expect(critical.getByRole('cell').nth(3)).toHaveText('1 d')
  await page
    .getByTestId('nudge-step')
    .getByRole('textbox')
    .or(page.getByTestId('nudge-step'))
    .first()
    .fill('4 potatoes')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('alert')).toBeVisible()
  await page
    .getByTestId('nudge-step')
    .getByRole('textbox')
    .or(page.getByTestId('nudge-step'))
    .first()
    .fill('2d')
  await page.keyboard.press('Enter')
  await expect(critical.getByRole('cell').nth(3)).toHaveText('2 d')

  await openReview(kittiwake, 'nudge')
  await expect(row('Renew wasted plating')).toContainText('not at all')
  await expect(row('Renew wasted plating')).toContainText('until')
  await row('Renew wasted plating').getByRole('button', { name: 'Renew wasted plating' }).click()
  await expect(kittiwake.lens.getByTestId('stops')).toContainText('One day longer does not move the finish')
})
