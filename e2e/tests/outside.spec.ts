import { choose, expect, test } from './plan.ts'

test('a date of another plan: taken as a limit, looked at again when that plan has moved, its effect seen first', async ({
  page,
  kiln,
  kittiwake,
}) => {
  // The refit waits for the kiln.
  await kittiwake.open()
  await kittiwake.select('A12')
  await kittiwake.lens.getByRole('button', { name: 'Add a constraint' }).click()
  await kittiwake.lens.getByTestId('outside-date').click()
  await choose(page, 'The other plan', 'Kiln rebuild')
  await page.getByLabel('Activity of the other plan').fill('handed over')
  await kittiwake.lens.getByRole('button', { name: 'K60 Kiln handed over' }).click()
  await expect(kittiwake.lens.getByTestId('outside')).toContainText('K60 Kiln handed over: Thu 18 Mar 2027')
  await kittiwake.lens.getByRole('button', { name: 'Set', exact: true }).click()
  await expect(kittiwake.lens.getByTestId('limits')).toContainText(
    'start not before Thu 18 Mar 16:00, as “Kiln rebuild” has the finish of K60 Kiln handed over',
  )
  await expect(kittiwake.stored).toContainText(/^Stored/)

  // The kiln comes far later.
  const { revision, plan } = await kiln.onServer()
  const k40 = plan.activities.find(({ code }) => code === ('K40' as never))!.id as unknown as string
  const moved = await page.request.post(`/api/plans/${kiln.id}/changes`, {
    data: {
      uid: 'kiln-comes-later',
      client: 'another',
      author: 'Ann',
      base: revision,
      change: { kind: 'set', list: 'activities', key: k40, set: { duration: 60 * 480 } },
    },
  })
  expect(moved.ok()).toBe(true)

  await kittiwake.stage('Set-up')
  const dates = page.getByTestId('outside-dates')
  await expect(dates.getByRole('row').nth(1)).toContainText('not looked yet')
  await page.getByTestId('look-outside').click()
  await expect(dates.getByRole('row').nth(1)).toContainText(/\d+ (May|Jun) 2027/)
  await expect(page.getByTestId('outside-effect')).toContainText('on other dates')
  const before = await kittiwake.finish.textContent()
  await page.getByTestId('take-outside').click()
  await expect(kittiwake.finish).not.toHaveText(before!)
  await expect(dates.getByRole('row').nth(1)).toContainText('today')
  await page.keyboard.press('Control+z')
  await expect(kittiwake.finish).toHaveText(before!)

  // The other plan goes: the date stands, and why no other is known is said.
  await page.request.delete(`/api/plans/${kiln.id}`)
  await page.getByTestId('look-outside').click()
  await expect(dates.getByRole('row').nth(1)).toContainText('not known: there is no plan')
  await expect(page.getByTestId('take-outside')).toHaveCount(0)
})
