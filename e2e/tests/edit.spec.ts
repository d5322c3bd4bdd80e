import { expect, test } from './plan.ts'

test('lengthen an activity: the finish moves at once, is stored, survives a reload, and is taken back', async ({
  page,
  kiln,
}) => {
  await kiln.open()
  await expect(kiln.finish).toHaveText('Thu 18 Mar 16:00')
  await kiln.type('K40', 'Duration', '7d')
  await expect(kiln.finish).toHaveText('Mon 22 Mar 16:00')
  await expect(kiln.news).toContainText('K40 Lay new lining, 5 d → 7 d, estimate scaled with it')
  await expect(kiln.news).toContainText('finish 2 d later · longest path unchanged')
  await expect(kiln.stored).toContainText(/^Stored \d/)
  expect(await kiln.duration('K40')).toBe(3360)

  await page.reload()
  await expect(kiln.finish).toHaveText('Mon 22 Mar 16:00')
  await page.keyboard.press('Control+z')
  await expect(kiln.finish).toHaveText('Thu 18 Mar 16:00')
  await expect.poll(() => kiln.duration('K40')).toBe(2400)
  await page.keyboard.press('Control+Shift+z')
  await expect(kiln.finish).toHaveText('Mon 22 Mar 16:00')
  await expect.poll(() => kiln.duration('K40')).toBe(3360)
})

test('what a duration or a drawn link would do is said before it is kept, over the rows below it; what is kept does that', async ({
  page,
  kiln,
}) => {
  await kiln.open()
  const typed = await kiln.begin('K40', 'Duration', '7d')
  const foreseen = page.getByTestId('foreseen')
  await expect(foreseen).toHaveText(/^finish 2 d later, \d+ activities on other dates$/)
  const moved = /(\d+) activities/.exec((await foreseen.textContent())!)![1]
  const isUncovered = await foreseen.evaluate((element) => {
    element.style.pointerEvents = 'auto'
    const { x, y, width, height } = element.getBoundingClientRect()
    return element.contains(document.elementFromPoint(x + width / 2, y + height / 2))
  })
  expect(isUncovered).toBe(true)
  await expect(kiln.finish).toHaveText('Thu 18 Mar 16:00')
  expect((await kiln.onServer()).revision).toBe(1)

  await typed.fill('5d')
  await expect(foreseen).toHaveCount(0)
  await typed.fill('7d')
  await page.keyboard.press('Enter')
  await expect(kiln.finish).toHaveText('Mon 22 Mar 16:00')
  // As many as were foreseen: both count whatever stands on other dates, the lengthened one too.
  await expect(kiln.news).toContainText(`${moved} moved`)

  // From the finish of K40 back to what it waits for: the loop is named, and letting go there changes nothing.
  await kiln.select('K40')
  const to = await kiln.bar('K10')
  const { revision } = await kiln.onServer()
  const end = (await page.locator('.tie').first().boundingBox())!
  await page.mouse.move(end.x + 5, end.y + 5)
  await page.mouse.down()
  await page.mouse.move(to.x + 10, to.y + to.height / 2, { steps: 6 })
  await expect(page.getByTestId('said')).toContainText('these activities wait for each other')
  await page.keyboard.press('Escape')
  await page.mouse.up()
  await expect(page.getByTestId('said')).toHaveCount(0)
  expect((await kiln.onServer()).revision).toBe(revision)
})

test('what cannot be understood keeps the text, says why, and changes nothing', async ({ page, kiln }) => {
  await kiln.open()
  await kiln.type('K40', 'Duration', 'a while')
  await expect(
    page.getByText('“a while” is not a duration; write for example 10d, 6h or 2d 4h'),
  ).toBeVisible()
  await expect(page.getByRole('treegrid').getByRole('textbox')).toHaveValue('a while')
  await page.keyboard.press('Escape')
  expect((await kiln.onServer()).revision).toBe(1)
})

test('add, change and remove a link in words; a loop is refused by name', async ({ page, kiln }) => {
  await kiln.open()
  await kiln.select('B30')
  const waits = kiln.lens.getByTestId('links-in')
  await waits.getByRole('button', { name: 'Add what it waits for' }).click()
  await waits.getByRole('textbox').fill('after K40, 1d later')
  await expect(waits.getByText('B30 after K40, 1 d later')).toBeVisible()
  await page.keyboard.press('Enter')
  await expect(kiln.news).toContainText('finish 2 d later')
  await expect(kiln.finish).toHaveText('Mon 22 Mar 16:00')

  await waits.getByRole('button', { name: 'after K40, 1 d later', exact: true }).click()
  await waits.getByRole('textbox', { name: 'Link in words' }).fill('ends with K40')
  await page.keyboard.press('Enter')
  await expect(kiln.finish).toHaveText('Thu 18 Mar 16:00')

  await waits.getByRole('button', { name: 'Add what it waits for' }).click()
  await waits.getByRole('textbox').fill('K60')
  await page.keyboard.press('Enter')
  await expect(kiln.lens.getByTestId('link-problem')).toContainText(
    'these activities wait for each other: K50 → K60 → B30 → K50',
  )
  await page.keyboard.press('Escape')

  await waits.getByRole('button', { name: 'Remove the link ends with K40' }).click()
  await expect(waits.getByText('ends with K40')).toHaveCount(0)
  await expect(kiln.stored).toContainText(/^Stored/)
  expect((await kiln.onServer()).plan.links).toHaveLength(11)
})

test('a typed start is a limit that shows, explains itself, and goes with one click', async ({ kiln }) => {
  await kiln.open()
  await kiln.type('K20', 'Start', '8 mar')
  await expect(kiln.news).toContainText('K20 Remove old lining, start not before Mon 8 Mar')
  await expect(kiln.finish).toHaveText('Thu 25 Mar 16:00')
  await kiln.select('K20')
  await expect(kiln.lens.getByTestId('explain-start')).toContainText(
    'because of a constraint: start not before Mon 8 Mar.',
  )
  await kiln.lens.getByRole('button', { name: 'Remove the constraint start not before Mon 8 Mar' }).click()
  await expect(kiln.finish).toHaveText('Thu 18 Mar 16:00')
})

test('links are typed by codes and names, with commas and “and”, in Rows, Lens and the line below', async ({
  page,
  kiln,
}) => {
  await kiln.open()
  await kiln.select('K60')
  await kiln.lens.getByRole('button', { name: 'Add what it waits for' }).click()
  const field = kiln.lens.getByTestId('links-in').getByRole('textbox').first()
  await field.fill('after B10 and nobody')
  await expect(kiln.lens.getByTestId('links-in')).toContainText('there is no activity “nobody”')
  await field.fill('after B10 and K20, 2d later')
  await expect(kiln.lens.getByTestId('links-in')).toContainText('K60 after B10; K60 after K20, 2 d later')
  await field.press('Enter')
  await expect.poll(async () => (await kiln.onServer()).plan.links.length).toBe(13)
  await page.keyboard.press('Control+z')
  await expect.poll(async () => (await kiln.onServer()).plan.links.length).toBe(11)
})

test('dates of the project say what they would do while they are typed; what cannot work yet is not offered', async ({
  page,
  kiln,
}) => {
  await kiln.open('setup')
  const start = page.getByLabel(/^Start\b/)
  const says = page.getByTestId('says-start')
  await start.fill('8 mar 2027 07:00')
  await expect(says).toContainText('finish 5 d later')
  await expect(says).toContainText('9 activities on other dates')
  await start.fill('8 xyz')
  await expect(says).toContainText('is not a date')
  await start.press('Enter')
  await expect(kiln.finish).toHaveText('Thu 18 Mar 16:00')
  await start.fill('8 mar 2027, 7:00')
  await start.press('Enter')
  await expect(kiln.finish).toHaveText('Thu 25 Mar 16:00')
  await page.getByLabel('Required finish').fill('0')
  await expect(page.getByTestId('says-requiredFinish')).toContainText('“0” is not a date')
  await page.getByLabel('Required finish').fill('29 mar')
  await expect(page.getByTestId('says-requiredFinish')).toContainText('no date moves')

  // Nothing was done yet: there is no status date to set here, and the first update sets it.
  await expect(page.getByLabel('Status date')).toHaveCount(0)
  await page.getByRole('link', { name: 'Progress' }).first().click()
  await expect(page).toHaveURL(/progress/)
})
