import ExcelJS from 'exceljs'
import type { Page } from '@playwright/test'
import { choose, expect, test } from './plan.ts'

const LIST = [
  'Activity ID,Activity name,Duration (days),Predecessors,Phase,Who',
  'P10,Order drive belts,10,,Conveyor,Stores',
  'P20,Strip old conveyor,3,,Conveyor,Fitters',
  'P30,Repair frame,soon,P20,Conveyor,Fitters',
  'P40,Fit new belts,4,"P10; P30SS+1d",Conveyor,Fitters',
  'P50,Test run,1,P40FS+2 d,Conveyor,Operators',
  'P60,Conveyor handed over,0,P50,,',
].join('\n')

test('read somebody else’s list: columns are recognised, a bad cell is listed, the plan is scheduled', async ({
  page,
}) => {
  await page.goto('/list')
  await page
    .getByTestId('list-file')
    .setInputFiles({ name: 'conveyor.csv', mimeType: 'text/csv', buffer: Buffer.from(LIST) })
  await expect(page.getByRole('combobox', { name: 'What column 6 holds, Who' })).toHaveAccessibleName(
    /: owner$/,
  )
  await expect(page.getByTestId('list-sum')).toContainText('5 new, 0 changed, 3 links, 1 group')
  await expect(page.getByTestId('list-problems')).toContainText('row 4: “soon” is not a duration')
  await page.getByLabel('take the rows without what is not understood').check()
  await expect(page.getByTestId('list-sum')).toContainText('6 new, 0 changed, 5 links')
  await page.getByLabel('Start').fill('2027-04-12')
  await page.getByLabel('Working week').fill('mon-fri 8-16')
  await page.getByTestId('make-plan').click()
  // Ten days of belts, four of fitting, two of waiting, one of testing.
  await expect(page.getByTestId('planned-finish')).toHaveText('Tue 4 May 16:00')
  await expect(page.getByText('1 duration not confirmed')).toBeVisible()
})

test('begin a plan from nothing, and one with the calendars of another', async ({ page, kiln: _kiln }) => {
  await page.goto('/new')
  await page.getByLabel('What must be finished').fill('Boiler inspection')
  await page.getByLabel('By when').fill('2027-05-14')
  await page.getByLabel('It can begin').fill('2027-05-03 07:00')
  await page.getByTestId('make-plan').click()
  await expect(page.getByText('No activities yet.')).toBeVisible()
  await page.getByTestId('entry').fill('Drain boiler, 1d')
  await page.keyboard.press('Enter')
  await page.getByTestId('entry').fill('Inspect drum, 2d, after A10')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('planned-finish')).toHaveText('Wed 5 May 16:00')

  await page.goto('/new')
  await page.getByLabel('What must be finished').fill('Kiln again')
  await choose(page, 'Begin as in an earlier plan', 'as in Kiln rebuild')
  await expect(page.getByText('1 calendar with its holidays: Day shift.')).toBeVisible()
  await page.getByTestId('make-plan').click()
  await expect(page.getByRole('row').filter({ hasText: 'Burner and controls' })).toBeVisible()
})

test('read a workbook: activities from one sheet, links from another; a week without hours is refused where it stands', async ({
  page,
}) => {
  const book = new ExcelJS.Workbook()
  const activities = book.addWorksheet('Work')
  activities.addRows([
    ['Code', 'Name', 'Days'],
    ['B10', 'Empty boiler', 1],
    ['B20', 'Renew tubes', 6],
    ['B30', '=SUM(A1:A9)', 2],
  ])
  const links = book.addWorksheet('Ties')
  links.addRows([
    ['From', 'To', 'Type', 'Lag'],
    ['B10', 'B20', 'FS', 0],
    ['B20', 'B30', 'FS', 1],
  ])
  await page.goto('/list')
  await page.getByTestId('list-file').setInputFiles({
    name: 'boiler.xlsx',
    mimeType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    buffer: Buffer.from(await book.xlsx.writeBuffer()),
  })
  await choose(page, 'What sheet Ties is', 'links')
  await expect(page.getByTestId('list-sum').first()).toContainText('3 new')
  await page.getByLabel('Start', { exact: true }).fill('2027-05-03')
  await page.getByLabel('Working week').fill('mon-sun off')
  await expect(page.getByTestId('make-plan')).toBeDisabled()
  await expect(page.locator('.others')).toContainText(/hours|working time/)
  await page.getByLabel('Working week').fill('mon-fri 7-15')
  await page.getByTestId('make-plan').click()
  // One day, six, a lag of one, two: ten working days from Monday.
  await expect(page.getByTestId('planned-finish')).toHaveText('Fri 14 May 15:00')
  await expect(page.getByRole('row').filter({ hasText: '=SUM(A1:A9)' })).toBeVisible()
})

test('read a workbook of several sheets of work: links lead from one to the other and back, a code that means two things is named with its sheet', async ({
  page,
}) => {
  const book = new ExcelJS.Workbook()
  const heads = ['No', 'Code', 'Task', 'Days', 'Waits for']
  book
    .addWorksheet('Hull')
    .addRows([heads, [1, 'H10', 'Blast hull', 2, 'P10'], [2, 'H20', 'Coat hull', 1, 1]])
  book
    .addWorksheet('Shaft')
    .addRows([
      heads,
      [1, 'P10', 'Draw shaft', 1, ''],
      [2, 'P20', 'Fit shaft', 1, 'H20'],
      [3, 'H10', 'Clean hull', 4, ''],
    ])
  await page.goto('/list')
  await page.getByTestId('list-file').setInputFiles({
    name: 'refit.xlsx',
    mimeType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    buffer: Buffer.from(await book.xlsx.writeBuffer()),
  })
  await expect(page.getByText('4 activities, 3 links')).toBeVisible()
  await page.getByRole('button', { name: /^Shaft/ }).click()
  const shaft = page.locator('.mapper').nth(1)
  await expect(shaft.getByTestId('list-problems')).toContainText(
    'row 4: H10 is in row 2 of the sheet “Hull” already, and says something else there',
  )
  await shaft.getByLabel('take the rows without what is not understood').check()
  await expect(page.getByText('5 activities, 3 links')).toBeVisible()
  await page.getByLabel('Start', { exact: true }).fill('2027-05-03')
  await page.getByLabel('Working week').fill('mon-fri 7-15')
  await page.getByTestId('make-plan').click()
  // Monday the shaft is drawn, two days to blast, one to coat, one to fit.
  await expect(page.getByTestId('planned-finish')).toHaveText('Fri 7 May 15:00')
})

test('read a workbook with calendars whose heads say nothing: columns are said by hand, and known the next time of the same sender', async ({
  page,
  browser,
}) => {
  const book = new ExcelJS.Workbook()
  const who = `Who ${Date.now()}`
  book.addWorksheet('Work').addRows([
    ['Code', 'Name', 'Days', 'Calendar', 'After'],
    ['B10', 'Empty boiler', 1, '', ''],
    ['B20', 'Renew tubes', 2, 'Night crew', 'B10'],
  ])
  book.addWorksheet('Crews').addRows([
    [who, 'When', 'Free'],
    ['Night crew', 'mon-fri 22-6', '4 may 2027'],
    ['Day crew', 'whenever', ''],
  ])
  const sender = `Boiler makers ${Date.now()}`
  const read = async (page: Page): Promise<void> => {
    await page.goto('/list')
    await page.getByTestId('list-file').setInputFiles({
      name: 'boiler.xlsx',
      mimeType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
      buffer: Buffer.from(await book.xlsx.writeBuffer()),
    })
    await choose(page, 'What sheet Crews is', 'calendars')
    await page.getByLabel('Sent by').fill(sender)
    await page.getByRole('button', { name: /^Crews/ }).click()
  }
  await read(page)
  await expect(page.getByTestId('sheet-calendars')).toContainText('No calendar is understood yet')
  await choose(page, 'Calendar', who)
  await choose(page, 'Hours', 'When')
  await choose(page, 'Days off', 'Free')
  await expect(page.getByTestId('sheet-calendars').getByRole('listitem')).toHaveText([
    /^Night crew: mon–fri 22–6.*; 1 day or stretch off$/,
  ])
  await expect(page.locator('.others')).toContainText('Crews, row 3: “whenever” names no days')

  // A colleague in another browser gets the next list of that sender.
  const other = await (await browser.newContext()).newPage()
  await read(other)
  await expect(other.getByTestId('sheet-calendars')).toContainText('Night crew')
  await other.context().close()
  await read(page)
  await expect(page.getByTestId('sheet-calendars')).toContainText('Night crew')
  // The activities have been read again with the calendar they name, though another sheet is looked at.
  await expect(page.getByText('2 activities, 1 link, 2 calendars')).toBeVisible()
  await page.getByLabel('Start', { exact: true }).fill('2027-05-03')
  await page.getByLabel('Working week').fill('mon-fri 7-15')
  await page.getByTestId('make-plan').click()
  // Monday by day; the first night, Monday 22:00 to 6:00, then Tuesday is free, then the night from Wednesday on.
  await expect(page.getByTestId('planned-finish')).toHaveText('Thu 6 May 06:00')
})

test('read a workbook with resources and who works on what: prices and amounts come along, what is odd is named', async ({
  page,
}) => {
  const book = new ExcelJS.Workbook()
  book.addWorksheet('Work').addRows([
    ['Ref', 'Work', 'Days', 'After'],
    ['K10', 'Strip bricks', 3, ''],
    ['K20', 'Lay floor', 5, 'K10'],
  ])
  book.addWorksheet('People').addRows([
    ['Code', 'Name', 'Kind', 'Rate', 'Per', 'How many'],
    ['MAS', 'Masons', 'people', 48, 'h', '2, 3 from 10 may 2027'],
    ['CRAN', 'Crane', 'plant', '120/h', '', 1],
    ['ODD', 'Odd one', 'people', 'much', '', 1],
  ])
  book.addWorksheet('Who').addRows([
    ['Code', 'Task', 'Resource', 'Units'],
    ['K10', 'Strip bricks', 'mas', 2],
    ['K20', '', 'Crane', '50%'],
    ['K20', '', 'Locksmith', ''],
    ['K99', '', 'MAS', 1],
  ])
  await page.goto('/list')
  await page.getByTestId('list-file').setInputFiles({
    name: 'kiln.xlsx',
    mimeType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    buffer: Buffer.from(await book.xlsx.writeBuffer()),
  })
  await expect(page.getByText('People, row 4: “much” is no price')).toBeVisible()
  await expect(page.getByText('Who, row 5: there is no activity K99')).toBeVisible()
  await expect(page.getByText('2 activities, 1 link, 3 resources, 3 assignments')).toBeVisible()
  await page.getByLabel('Start', { exact: true }).fill('2027-05-03')
  await page.getByLabel('Working week').fill('mon-fri 7-15')
  await page.getByTestId('make-plan').click()
  await expect(page.getByTestId('planned-finish')).toHaveText('Wed 12 May 15:00')
  await page.getByRole('navigation', { name: 'Stages' }).getByText('Resources').click()
  const list = page.getByRole('navigation', { name: 'Resources' })
  await expect(list).toContainText('48 EUR an hour')
  await expect(list).toContainText('2, 3 from 10 May')
  await expect(list).toContainText('Locksmith')
  // 24 hours of two masons at 48, 40 hours of half a crane at 120; a locksmith without a price.
  await expect(page.getByText('4,704 EUR at completion')).toBeVisible()
})
