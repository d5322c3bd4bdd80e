import { expect, test } from './plan.ts'

test('make a calendar with a lunch break and a night shift, and see the finish move', async ({
  page,
  kiln,
}) => {
  await kiln.open('calendars')
  const hours = page.getByTestId('day-hours')
  await hours.fill('7-12 13-16 22-2')
  await hours.press('Enter')
  const effect = page.getByTestId('calendar-effect')
  await expect(effect).toContainText('What stays?')
  await effect.getByLabel('the work: 40 h stays 40 h').check()
  // 112 hours of work and lag on the way to the finish, now in days of twelve.
  await expect(effect.getByRole('heading')).toHaveText('Fri 12 Mar 11:00')
  await expect(kiln.finish).toHaveText('Thu 18 Mar 16:00')
  await effect.getByTestId('keep-calendar').click()
  await expect(kiln.finish).toHaveText('Fri 12 Mar 11:00')
  await expect
    .poll(async () => (await kiln.onServer()).plan.calendars[0]!.week)
    .toMatchObject({ mon: ['07:00-12:00', '13:00-16:00', '22:00-02:00'], sat: [] })
  await page.keyboard.press('Control+z')
  await expect(kiln.finish).toHaveText('Thu 18 Mar 16:00')
})

test('paint Saturday with the mouse, name a shutdown on the year planner, read holidays from a file', async ({
  page,
  kiln,
}) => {
  await kiln.open('calendars')
  await page.getByRole('button', { name: 'Sat, off' }).click()
  const track = (await page.locator('[data-day=sat]').boundingBox())!
  const at = (hour: number): [number, number] => [track.x + (track.width * hour) / 24, track.y + 12]
  await kiln.drag(at(7), at(12))
  await expect(page.getByTestId('week-words')).toHaveValue('mon–fri 7–12 13–16; sat 7–12; sun off')
  await kiln.drag(at(9), at(10))
  await expect(page.getByTestId('week-words')).toHaveValue('mon–fri 7–12 13–16; sat 7–9 10–12; sun off')
  await page.getByTestId('calendar-effect').getByRole('button', { name: 'Drop the change' }).click()

  await page.getByRole('button', { name: /^2027-03-03/ }).hover()
  await page.mouse.down()
  await page.getByRole('button', { name: /^2027-03-05/ }).hover()
  await page.mouse.up()
  await page.getByLabel('Name of these days').fill('Furnace fair')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('calendar-effect').getByRole('heading')).toHaveText('Tue 23 Mar 16:00')
  const ics =
    'BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\nUID:1\r\nDTSTART;VALUE=DATE:20270308\r\nDTEND;VALUE=DATE:20270309\r\nSUMMARY:Smoke Day\r\nRRULE:FREQ=YEARLY\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n'
  await page
    .getByTestId('holiday-file')
    .setInputFiles({ name: 'days.ics', mimeType: 'text/calendar', buffer: Buffer.from(ics) })
  await expect(page.getByText('Smoke Day 8 Mar, every year')).toBeVisible()
  await page.getByTestId('keep-calendar').click()
  await expect(kiln.finish).toHaveText('Wed 24 Mar 16:00')
})

test('a new calendar from a template for one activity; one in use cannot be removed', async ({
  page,
  kiln,
}) => {
  await kiln.open('calendars')
  await page.getByRole('button', { name: 'New calendar' }).click()
  await page.getByRole('button', { name: 'Seven days' }).first().click()
  await expect(page.getByRole('heading', { level: 1, name: 'Seven days' })).toBeVisible()
  await kiln.stage('Network')
  await kiln.select('K40')
  await kiln.lens.getByTestId('facts').getByLabel('Calendar').fill('Seven')
  await kiln.lens.getByTestId('facts').getByLabel('Calendar').press('Enter')
  await expect(kiln.news).toContainText('calendar the project’s → Seven days')
  await expect(kiln.finish).toHaveText('Tue 16 Mar 16:00')
  // A day of it is as long as one of the project's: there are no other days to keep. Round the clock there are.
  await expect(page.getByTestId('news-offer')).toHaveCount(0)
  await kiln.lens.getByTestId('facts').getByLabel('Calendar').fill('Round the clock')
  await kiln.lens.getByTestId('facts').getByLabel('Calendar').press('Enter')
  await page.getByTestId('news-offer').click()
  await expect(page.getByTestId('news-offer')).toHaveCount(0)
  await expect.poll(() => kiln.duration('K40')).toBe(5 * 1440)
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await expect(kiln.finish).toHaveText('Tue 16 Mar 16:00')
  await kiln.stage('Calendars')
  await page
    .getByRole('navigation', { name: 'Calendars' })
    .getByRole('button', { name: /Seven days/ })
    .click()
  await page.getByRole('button', { name: 'Remove this calendar' }).click()
  await expect(page.getByText(/Seven days stays: it is used by 1 activity/)).toBeVisible()
})

test('working backward says what it does before it is chosen; midnight of the required day is caught', async ({
  page,
  kiln,
}) => {
  await kiln.open('setup')
  await page.getByRole('radio', { name: /^Backward from a finish/ }).check()
  await expect(page.getByText('Backward places every activity as late as possible')).toBeVisible()
  await expect(page.getByTestId('project-effect')).toContainText(
    'it finishes Fri 26 Mar 16:00, now Thu 18 Mar 16:00',
  )
  await page.getByTestId('keep-project').click()
  await expect(kiln.finish).toHaveText('Fri 26 Mar 16:00')
  await page.keyboard.press('Control+z')
  await expect(kiln.finish).toHaveText('Thu 18 Mar 16:00')
  await page.getByLabel('Required finish').fill('2027-03-26 00:00')
  await page.getByLabel('Required finish').press('Enter')
  await page.getByTestId('midnight').getByRole('button', { name: 'Mean its end' }).click()
  await expect.poll(async () => (await kiln.onServer()).plan.project.requiredFinish).toBe('2027-03-26')
})

test('a calendar that lost its hours says so and is not kept', async ({ page, kiln }) => {
  await kiln.open('calendars')
  await page.getByTestId('week-words').fill('mon-sun off')
  await page.getByTestId('week-words').press('Enter')
  const effect = page.getByTestId('calendar-effect')
  await expect(effect.getByRole('alert')).toContainText('no working time')
  await expect(page.getByTestId('keep-calendar')).toBeDisabled()
  await effect.getByRole('button', { name: 'Drop the change' }).click()
  await expect(page.getByTestId('week-words')).toHaveValue('mon–fri 7–12 13–16; sat sun off')
  await expect(kiln.finish).toHaveText('Thu 18 Mar 16:00')
})

test('a calendar copied from another plan says when its origin has changed, and takes the change once its effect was seen', async ({
  page,
  kiln,
  kittiwake,
}) => {
  const name = `Slip works ${Date.now()}`
  const change = (base: number, set: object) =>
    page.request.post(`/api/plans/${kittiwake.id}/changes`, {
      data: {
        uid: `copy-${Date.now()}-${base}`,
        client: 'elsewhere',
        author: 'Yard office',
        base,
        change: set,
      },
    })
  await change(1, { kind: 'project', set: { name } })
  const yard = (await kittiwake.onServer()).plan.calendars.find(
    (c) => c.id === ('day' as never),
  )! as unknown as { id: string; name: string; exceptions: object[] }

  await kiln.open('calendars')
  const library = page.getByTestId('calendar-library')
  await library.getByLabel('Find in the library').fill(name)
  await library
    .getByRole('button')
    .filter({ hasText: `of ${name}` })
    .filter({ hasText: yard.name })
    .first()
    .click()
  await expect(page.getByTestId('calendar-origin')).toContainText(`of ${name}, which says the same since`)
  // What is here is not offered again.
  await expect(
    library
      .getByRole('button')
      .filter({ hasText: `of ${name}` })
      .filter({ hasText: yard.name }),
  ).toHaveCount(0)
  // The project's calendar is chosen where the project is set up, with what it moves and what stays.
  await page.getByRole('button', { name: 'Make it the project’s calendar' }).click()
  await expect(page.getByTestId('project-effect')).toContainText('If you keep this, it finishes')
  await page.getByTestId('keep-project').click()
  await kiln.stage('Calendars')
  const before = await kiln.finish.textContent()

  await change(2, {
    kind: 'set',
    list: 'calendars',
    key: yard.id,
    set: {
      exceptions: [
        ...yard.exceptions,
        { name: 'Slip closed', from: '2027-03-03', to: '2027-03-05', shifts: [] },
      ],
    },
  })
  await page.reload()
  const note = page.getByTestId('calendar-origin')
  await expect(note).toContainText('has changed since it was copied')
  await expect(page.getByRole('navigation', { name: 'Calendars' })).toContainText(
    `copied from ${name}, changed there since`,
  )
  await expect(note).toContainText('Slip closed 3 Mar to 5 Mar 2027 added')
  await note.getByRole('button', { name: 'See what taking it moves' }).click()
  await expect(page.getByTestId('calendar-effect')).toContainText(`It finishes now on ${before}`)
  await page.getByTestId('keep-calendar').click()
  await expect(kiln.finish).not.toHaveText(before!)
  await expect(note).toContainText('which says the same since')
})

test('winter hours as a season, its days typed in words', async ({ page, kiln }) => {
  await kiln.open('calendars')
  await page.getByRole('button', { name: 'Add a season' }).click()
  await page.getByLabel('Name of the season').fill('Winter')
  await page.getByLabel('Name of the season').press('Tab')
  await page.getByLabel('from', { exact: true }).fill('1 nov')
  await page.getByLabel('from', { exact: true }).press('Tab')
  await page.getByLabel('to', { exact: true }).fill('soon')
  await page.getByLabel('to', { exact: true }).press('Tab')
  await expect(page.getByText('“soon” is not a date')).toBeVisible()
  await page.getByLabel('to', { exact: true }).fill('31 mar')
  await page.getByLabel('to', { exact: true }).press('Tab')
  await expect(page.getByRole('button', { name: 'Winter, 1 Nov to 31 Mar' })).toBeVisible()
  await page.getByTestId('week-words').fill('mon-fri 8-12')
  await page.getByTestId('week-words').press('Enter')
  await page.getByTestId('keep-calendar').click()
  // Half the hours a day, over the whole of the rebuild.
  await expect
    .poll(async () =>
      (await kiln.onServer()).plan.calendars.find(
        (c) => (c as unknown as { seasons: unknown[] }).seasons.length > 0,
      ),
    )
    .toMatchObject({ seasons: [{ name: 'Winter', from: '11-01', to: '03-31', yearly: true }] })
  await expect(kiln.finish).not.toHaveText('Thu 18 Mar 16:00')
})

test('a calendar that the plan would run out of is refused by its name', async ({
  page,
  kiln,
  kittiwake,
}) => {
  const name = `Tide tables ${Date.now()}`
  await page.request.post(`/api/plans/${kittiwake.id}/changes`, {
    data: {
      uid: `tide-${Date.now()}`,
      client: 'elsewhere',
      author: 'Yard office',
      base: 1,
      change: { kind: 'project', set: { name } },
    },
  })
  // More work than there are tides for.
  await page.request.post(`/api/plans/${kiln.id}/changes`, {
    data: {
      uid: `long-${Date.now()}`,
      client: 'elsewhere',
      author: 'Yard office',
      base: 1,
      change: { kind: 'set', list: 'activities', key: 'k4', set: { duration: 1000 * 480 } },
    },
  })
  await kiln.open('calendars')
  const finish = await kiln.finish.textContent()
  const library = page.getByTestId('calendar-library')
  await library.getByLabel('Find in the library').fill(name)
  await library.getByRole('button').filter({ hasText: 'Spring tides' }).click()
  await page.getByRole('button', { name: 'Make it the project’s calendar' }).click()
  const effect = page.getByTestId('project-effect')
  await expect(effect.getByRole('alert')).toContainText(
    'calendar "Spring tides" has no working time within 50 years',
  )
  await expect(page.getByTestId('keep-project')).toBeDisabled()
  await effect.getByRole('button', { name: 'Leave it as it was' }).click()
  await expect(kiln.finish).toHaveText(finish!)
})
