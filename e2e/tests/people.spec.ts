import { isAccessible } from './isAccessible.ts'
import { choose, demoFile, expect, test } from './plan.ts'
import { startTeamServer, type TeamServer } from './teamServer.ts'

let team: TeamServer
test.beforeAll(async () => void (team = await startTeamServer()))
test.afterAll(() => team.stop())

test('a team: the first administrator invites, gives parts in a plan, and each does what they may', async ({
  browser,
}, { retry }) => {
  test.slow()
  // Who was invited before this test was tried again is there still.
  const called = (name: string): string => (retry === 0 ? name : `${name} ${retry + 1}`)
  const somebody = () => team.somebody(browser)
  const [rosa, ben, carla] = await Promise.all([somebody(), somebody(), somebody()])
  await rosa.goto('/')
  await expect(rosa.getByRole('heading', { name: 'Who is it?' })).toBeVisible()
  await isAccessible(rosa, 'sign in')
  if (team.firstLink !== null) await team.comeIn(rosa, team.firstLink, 'Rosa Ahlquist')
  else {
    await rosa.getByLabel('Name').fill('Rosa Ahlquist')
    await rosa.getByLabel('Password').fill(team.password)
    await rosa.getByRole('button', { name: 'Sign in' }).click()
    await expect(rosa.getByTestId('plans')).toBeVisible()
    await rosa.goto('/accounts')
  }

  const [foreman, reader] = [called('Ben Foreman'), called('Carla Reader')]
  const invite = async (name: string): Promise<string> => {
    await rosa.getByLabel('Somebody new').fill(name)
    await rosa.getByTestId('invite').click()
    await expect(rosa.getByTestId('invitation')).toContainText(`Give this link to ${name}`)
    return rosa.getByTestId('address').innerText()
  }
  await isAccessible(rosa, 'accounts')
  const [toBen, toCarla] = [await invite(foreman), await invite(reader)]

  const made = await rosa.request.post('/api/plans', {
    data: demoFile('kittiwake-may'),
    headers: { 'content-type': 'application/json' },
  })
  const { id } = (await made.json()) as { id: string }
  await rosa.goto(`/plan/${id}/handover/people`)
  for (const [name, role] of [
    [foreman, 'planner on site'],
    [reader, 'reader'],
  ] as const) {
    await choose(rosa, 'Somebody else', name)
    await choose(rosa, 'What they will be', role)
    await rosa.getByTestId('give-part').click()
    await expect(rosa.getByRole('combobox', { name: `What ${name} is: ${role}` })).toBeVisible()
  }

  await isAccessible(rosa, 'people of the plan')

  // Ben says what was done, and cannot change what is planned.
  await team.comeIn(ben, toBen)
  await ben.getByRole('link', { name: 'Kittiwake refit, 10 May' }).first().click()
  await expect(ben.getByTestId('role-line')).toContainText('You are planner on site here')
  await expect(ben.getByTestId('planned-finish')).toHaveText('Mon 19 Jul 15:45', { timeout: 90_000 })
  await ben.keyboard.press('Control+k')
  await expect(ben.getByRole('combobox', { name: 'An activity' })).toBeVisible()
  await ben.keyboard.type('A12 5d')
  await ben.keyboard.press('Enter')
  await expect(ben.getByText('which its analysts do')).toBeVisible()
  await ben.goto(`/plan/${id}/progress`)
  await ben.getByLabel('E40, started', { exact: true }).fill('10 may')
  await ben.keyboard.press('Tab')
  await ben.getByTestId('keep-update').click()
  await expect(ben.getByTestId('stored')).toContainText('Stored')

  // Rosa sees who it was.
  await rosa.goto(`/plan/${id}/handover/changes`)
  await expect(rosa.getByRole('row').filter({ hasText: foreman }).first()).toBeVisible()

  // Carla reads, and is told who gives links; then she has no part any more.
  await team.comeIn(carla, toCarla)
  await expect(
    carla.getByTestId('plans').getByRole('row').filter({ hasText: 'Kittiwake refit, 10 May' }),
  ).toContainText('you are reader')
  await expect(carla.getByRole('button', { name: /^Remove/ })).toHaveCount(0)
  await carla.goto(`/plan/${id}/handover/share`)
  await expect(carla.getByText('given by its analysts')).toBeVisible()
  await rosa.goto(`/plan/${id}/handover/people`)
  await rosa.getByRole('button', { name: `Take the part in the plan from ${reader}` }).click()
  await expect(carla.getByTestId('removed')).toContainText('you have no part in it any more')
  await expect(carla.getByRole('button', { name: 'Bring it back' })).toHaveCount(0)
  await carla.goto('/')
  await expect(carla.getByText('No plans yet.')).toBeVisible()

  // Who is signed out meanwhile loses nothing.
  await rosa.goto(`/plan/${id}/network`)
  await expect(rosa.getByTestId('planned-finish')).toHaveText('Mon 19 Jul 15:45', { timeout: 90_000 })
  await rosa.request.post('/api/sign-out', { headers: { 'content-type': 'application/json' } })
  await rosa.keyboard.press('Control+k')
  await expect(rosa.getByRole('combobox', { name: 'An activity' })).toBeVisible()
  await rosa.keyboard.type('A12 5d')
  await rosa.keyboard.press('Enter')
  const again = rosa.getByRole('dialog', { name: 'Sign in again' })
  await expect(again).toBeVisible()
  await isAccessible(rosa, 'signed out')
  await expect(again).toContainText('1 change of yours waits here')
  await again.getByLabel('Password of Rosa Ahlquist').fill('not it')
  await rosa.keyboard.press('Enter')
  await expect(again.getByRole('alert')).toContainText('do not belong together')
  await again.getByLabel('Password of Rosa Ahlquist').fill(team.password)
  await rosa.keyboard.press('Enter')
  await expect(again).toHaveCount(0)
  await expect(rosa.getByTestId('stored')).toContainText('Stored')
  const { plan } = (await (await rosa.request.get(`/api/plans/${id}`)).json()) as {
    plan: { activities: { code: string; duration: number }[] }
  }
  expect(plan.activities.find(({ code }) => code === 'A12')!.duration).toBe(5 * 480)
})
