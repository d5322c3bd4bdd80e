import { readFileSync } from 'node:fs'
import { QueryTypes } from 'sequelize'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import {
  mayDo,
  RIGHTS,
  ROLE_NAMES,
  type MadeInvitation,
  type Me,
  type PersonAccount,
  type PlanPeople,
  type PlanSummary,
  type Right,
  type Role,
  type Run,
} from '@geodrome/core'
import { configFrom } from './config.ts'
import { ROUTES, type DescribedRoute } from './http/openApi.ts'
import { testServer, type TestServer } from './testing/testServer.ts'

const file = readFileSync(new URL('../../demo/kiln.geodrome.json', import.meta.url), 'utf8')
const PASSWORD = 'a long enough one'
let server: TestServer

interface Answer {
  readonly status: number
  readonly body: never
  readonly headers: Headers
}
/** Somebody's browser: it keeps the cookie. */
class Browser {
  cookie = ''
  async ask(method: string, path: string, body?: unknown): Promise<Answer> {
    const response = await fetch(`${server.address}/api${path}`, {
      method: method.toUpperCase(),
      headers: { 'content-type': 'application/json', ...(this.cookie && { cookie: this.cookie }) },
      ...(body !== undefined && { body: typeof body === 'string' ? body : JSON.stringify(body) }),
    })
    const set = response.headers.get('set-cookie')
    if (set) this.cookie = set.split(';')[0]!
    const isJson = response.headers.get('content-type')?.includes('json')
    const text = response.headers.get('content-type')?.includes('event-stream')
      ? (await response.body!.cancel(), '')
      : await response.text()
    return {
      status: response.status,
      headers: response.headers,
      body: (isJson && text ? JSON.parse(text) : text) as never,
    }
  }
  async done<T>(method: string, path: string, body?: unknown): Promise<T> {
    const { status, body: told } = await this.ask(method, path, body)
    expect([status < 300, told]).toEqual([true, told])
    return told
  }
}

let root: Browser
const welcome = async (token: string, name?: string): Promise<Browser> => {
  const browser = new Browser()
  await browser.done('post', '/welcome/accept', { token, password: PASSWORD, ...(name && { name }) })
  return browser
}
/** Somebody new, who has chosen a password. */
const person = async (name: string): Promise<{ browser: Browser; id: string }> => {
  const { token, id } = await root.done<MadeInvitation>('post', '/accounts', { name })
  return { browser: await welcome(token), id }
}
const newPlan = async (by: Browser): Promise<string> =>
  (await by.done<{ id: string }>('post', '/plans', file)).id
const give = (by: Browser, plan: string, account: string, role: Role | null): Promise<Answer> =>
  by.ask('put', `/plans/${plan}/people/${account}`, { role })

let count = 0
const sent = (change: object, more: object = {}): object => ({
  uid: `change-of-people-${++count}`,
  client: 'one',
  author: 'Somebody Else',
  base: 1,
  change,
  ...more,
})
const duration = { kind: 'set', list: 'activities', key: 'k4', set: { duration: 1440 } }
const reported = {
  kind: 'all',
  changes: [
    { kind: 'project', set: { statusDate: '2027-04-12T07:00' } },
    {
      kind: 'set',
      list: 'activities',
      key: 'k1',
      set: {
        progress: { actualStart: '2027-04-05T07:00', actualFinish: null, percent: 10, remaining: null },
      },
    },
  ],
}

beforeAll(async () => {
  server = await testServer(null, { people: true })
  const token = server.firstWelcome!.split('#')[1]!
  expect(await new Browser().done('post', '/welcome', { token })).toEqual({ name: null, again: false })
  root = await welcome(token, '  Rosa   Ahlquist ')
})
afterAll(() => server.stop())

describe('the first administrator', () => {
  it('is whoever opened the link that the start printed, once; then none is printed any more', async () => {
    const me = await root.done<Me>('get', '/me')
    expect(me).toEqual({
      people: true,
      account: { id: me.account!.id, name: 'Rosa Ahlquist', administrator: true },
    })
    const token = server.firstWelcome!.split('#')[1]!
    const again = await new Browser().ask('post', '/welcome/accept', {
      token,
      name: 'Intruder',
      password: PASSWORD,
    })
    expect([again.status, (again.body as { message: string }).message]).toEqual([
      404,
      expect.stringContaining('ask an administrator for a new one') as string,
    ])
    const other = await server.another()
    expect(other.firstWelcome).toBeNull()
    await other.stop()
  })

  it('is asked for by a server that others can reach, and the setting says so', () => {
    expect(() => configFrom({ GEODROME_HOST: '0.0.0.0' })).toThrow('set GEODROME_PEOPLE=on')
    expect(() => configFrom({ GEODROME_HOST: '192.168.1.4', GEODROME_PEOPLE: 'off' })).toThrow(
      'others could reach every plan',
    )
    expect(() => configFrom({ GEODROME_PEOPLE: 'yes' })).toThrow('is on or off, not "yes"')
    expect(() => configFrom({ GEODROME_PROXIES: '-1' })).toThrow('GEODROME_PROXIES')
    expect(configFrom({ GEODROME_HOST: '0.0.0.0', GEODROME_PEOPLE: 'on' }).people).toBe(true)
    for (const host of ['127.0.0.1', '127.9.9.9', '::1', 'localhost', undefined])
      expect(configFrom({ GEODROME_HOST: host }).people).toBe(false)
  })
})

describe('every route, by everybody', () => {
  /** Addresses with what is asked for put in; bodies that are wrong, so that who is let through changes nothing. */
  const real = (path: string, plan: string): string =>
    path
      .replace(/\{(id|plan)\}/, plan)
      .replace('{format}', 'csv')
      .replaceAll(/\{\w+\}/g, 'nothing')
      .replace(/\/report$/, '/report?parts=nope')
  const isDenied = ({ status, body }: Answer): boolean => {
    const { error, message } = (body ?? {}) as { error?: string; message?: string }
    return (
      status === 401 ||
      error === 'forbidden' ||
      (status === 404 && message === 'there is no such plan, or you have no part in it')
    )
  }
  const isRight = (needs: DescribedRoute['needs']): needs is Right => RIGHTS.includes(needs as Right)
  /** Those that end something come last; what was removed is brought back. */
  const last = ({ method, path }: DescribedRoute): number =>
    path === '/sign-out' ? 3 : path.endsWith('restore') ? 2 : method === 'delete' ? 1 : 0
  const inOrder = [...ROUTES].sort((a, b) => last(a) - last(b))

  const walk = async (
    who: string,
    browser: Browser,
    plan: string,
    may: (route: DescribedRoute) => boolean,
    status: (route: DescribedRoute) => number,
  ): Promise<void> => {
    const wrong: string[] = []
    for (const route of inOrder) {
      const { method, path } = route
      const answer = await browser.ask(method, real(path, plan), method === 'get' ? undefined : {})
      const denied = isDenied(answer)
      if (denied === may(route) || (denied && answer.status !== status(route)))
        wrong.push(`${who}: ${method} ${path} → ${answer.status} ${JSON.stringify(answer.body).slice(0, 90)}`)
    }
    expect(wrong).toEqual([])
  }

  it('who is not signed in gets nothing but what signing in takes', async () => {
    const plan = await newPlan(root)
    await walk(
      'nobody',
      new Browser(),
      plan,
      ({ needs }) => needs === 'nothing',
      () => 401,
    )
    const open = ROUTES.filter(({ needs }) => needs === 'nothing').map(({ path }) => path)
    expect(open).toEqual(['/health', '/openapi.json', '/me', '/sign-in', '/welcome', '/welcome/accept'])
  })

  it('who has no part in a plan is answered as if there were none', async () => {
    const plan = await newPlan(root)
    const { browser } = await person('Nora Outside')
    await walk(
      'no part',
      browser,
      plan,
      ({ needs }) => needs === 'nothing' || needs === 'account',
      ({ needs }) => (needs === 'administrator' ? 403 : 404),
    )
  })

  it.each(ROLE_NAMES)('%s', async (role) => {
    const plan = await newPlan(root)
    const { browser, id } = await person(`Walker as ${role}`)
    expect((await give(root, plan, id, role)).status).toBe(204)
    await walk(
      role,
      browser,
      plan,
      ({ needs }) => needs === 'nothing' || needs === 'account' || (isRight(needs) && mayDo(role, needs)),
      () => 403,
    )
  })

  it('an administrator of the server, in every plan', async () => {
    const { token } = await root.done<MadeInvitation>('post', '/accounts', {
      name: 'Second administrator',
      administrator: true,
    })
    await walk(
      'administrator',
      await welcome(token),
      await newPlan(root),
      () => true,
      () => 0,
    )
  })

  it('an address that is not described is not there, however it is written', async () => {
    const plan = await newPlan(root)
    for (const path of [
      `/plans/${plan}/`,
      `/Plans/${plan}`,
      `//plans/${plan}`,
      `/plans/%E0%A4%A`,
      `/plans/${plan}/../${plan}x`,
      '/nothing',
    ])
      expect([path, (await root.ask('get', path)).status]).toEqual([path, 404])
  })
})

describe('plans', () => {
  it('belong to who made them; others see them when they are given a part, with what they are in it', async () => {
    const [ann, ben] = [await person('Ann Own'), await person('Ben Other')]
    const plan = await newPlan(ann.browser)
    const listed = async (by: Browser): Promise<readonly (readonly [string, string])[]> =>
      (await by.done<PlanSummary[]>('get', '/plans')).map((one) => [one.id, one.role])
    expect(await listed(ann.browser)).toEqual([[plan, 'administrator']])
    expect(await listed(ben.browser)).toEqual([])
    expect(await ben.browser.done('get', '/plans/calendars')).toEqual([])

    const { people, others } = await ann.browser.done<PlanPeople>('get', `/plans/${plan}/people`)
    expect(people).toEqual([{ id: ann.id, name: 'Ann Own', role: 'administrator' }])
    expect(others).toContainEqual({ id: ben.id, name: 'Ben Other' })
    await give(ann.browser, plan, ben.id, 'reader')
    expect(await listed(ben.browser)).toEqual([[plan, 'reader']])
    expect(await ben.browser.done('get', `/plans/${plan}`)).toMatchObject({ role: 'reader' })
    expect(await ben.browser.done('get', '/plans/calendars')).toHaveLength(1)
    expect((await give(ben.browser, plan, ben.id, 'administrator')).status).toBe(403)
    await give(ann.browser, plan, ben.id, null)
    expect(await listed(ben.browser)).toEqual([])
  })

  it('the same name of an import by another account is another plan', async () => {
    const [ann, ben] = [await person('Ann Import'), await person('Ben Import')]
    const path = '/plans?uid=import-of-the-same-name'
    const first = await ann.browser.done<{ id: string }>('post', path, file)
    expect(await ann.browser.done('post', path, file)).toMatchObject({ id: first.id })
    const second = await ben.browser.done<{ id: string }>('post', path, file)
    expect(second.id).not.toBe(first.id)
    expect((await ben.browser.ask('get', `/plans/${first.id}`)).status).toBe(404)
  })

  it('one administrator of a plan stays, whoever asks', async () => {
    const [ann, ben] = [await person('Ann Last'), await person('Ben Last')]
    const plan = await newPlan(ann.browser)
    for (const role of ['reader', null] as const) {
      const refused = await give(ann.browser, plan, ann.id, role)
      expect([refused.status, (refused.body as { message: string }).message]).toEqual([
        400,
        'a plan keeps one administrator; make somebody else one first',
      ])
    }
    await give(ann.browser, plan, ben.id, 'administrator')
    // Both go at once: one of them stays.
    const left = await Promise.all([
      give(ann.browser, plan, ann.id, null),
      give(ben.browser, plan, ben.id, null),
    ])
    expect(left.filter(({ status }) => status === 204)).toHaveLength(1)
    const { people } = await root.done<PlanPeople>('get', `/plans/${plan}/people`)
    expect(people.map(({ role }) => role)).toEqual(['administrator'])
  })

  it('a run of another plan is not found by way of one’s own', async () => {
    const [ann, ben] = [await person('Ann Run'), await person('Ben Run')]
    const [hers, his] = [await newPlan(ann.browser), await newPlan(ben.browser)]
    const run = await ann.browser.done<Run>('post', `/plans/${hers}/runs`, {
      kind: 'simulation',
      input: { iterations: 50, seed: 1 },
    })
    expect((await ann.browser.ask('get', `/plans/${hers}/runs/${run.id}`)).status).toBe(200)
    expect((await ben.browser.ask('get', `/plans/${his}/runs/${run.id}`)).status).toBe(404)
    expect((await ben.browser.ask('delete', `/plans/${his}/runs/${run.id}`)).status).toBe(404)
  })

  it('how lists are read is one’s own', async () => {
    const [ann, ben] = [await person('Ann List'), await person('Ben List')]
    const mapping = { heads: 'Task|Days', sender: 'Yard', mapping: { code: 'Task' } }
    await ann.browser.done('put', '/sheet-mappings', mapping)
    expect(await ann.browser.done('get', '/sheet-mappings')).toEqual([mapping])
    expect(await ben.browser.done('get', '/sheet-mappings')).toEqual([])
    await ben.browser.done('put', '/sheet-mappings', { ...mapping, mapping: { code: 'Days' } })
    expect(await ann.browser.done('get', '/sheet-mappings')).toEqual([mapping])
  })
})

describe('changes', () => {
  it('are signed with the account, whatever is sent', async () => {
    const ann = await person('Ann Signs')
    const plan = await newPlan(ann.browser)
    expect(await ann.browser.done('post', `/plans/${plan}/changes`, sent(duration))).toMatchObject({
      author: 'Ann Signs',
    })
    expect(
      await ann.browser.done('post', `/plans/${plan}/shares`, { shows: 'all', by: 'Somebody Else' }),
    ).toMatchObject({ by: 'Ann Signs' })
  })

  it('a planner on site says what was done and takes it back, and changes nothing else', async () => {
    const [ann, sue] = [await person('Ann Plans'), await person('Sue on site')]
    const plan = await newPlan(ann.browser)
    await give(ann.browser, plan, sue.id, 'site')
    const told = await sue.browser.done<{ uid: string }>('post', `/plans/${plan}/changes`, sent(reported))
    const planned = await ann.browser.done<{ uid: string }>('post', `/plans/${plan}/changes`, sent(duration))
    const before = await ann.browser.done<{ revision: number }>('get', `/plans/${plan}`)
    for (const change of [
      duration,
      { kind: 'all', changes: [...reported.changes, duration] },
      { kind: 'project', set: { statusDate: '2027-04-12T07:00', name: 'Mine' } },
      { kind: 'remove', list: 'activities', key: 'k9' },
      { kind: 'move', list: 'activities', key: 'k1', before: null },
      { kind: 'add', list: 'groups', item: { id: 'g', code: 'G', name: 'G' }, before: null },
    ]) {
      const { status, body } = await sue.browser.ask('post', `/plans/${plan}/changes`, sent(change))
      expect([status, (body as { message: string }).message]).toEqual([
        403,
        expect.stringContaining('which its analysts do') as string,
      ])
    }
    // Taking back what an analyst did changes the plan, too.
    const undone = sent({}, { change: undefined, undoes: planned.uid })
    expect((await sue.browser.ask('post', `/plans/${plan}/changes`, undone)).status).toBe(403)
    expect(await ann.browser.done('get', `/plans/${plan}`)).toMatchObject({ revision: before.revision })
    await sue.browser.done(
      'post',
      `/plans/${plan}/changes`,
      sent({}, { change: undefined, undoes: told.uid }),
    )
  })
})

describe('signing in', () => {
  it('opens with name and password, however the name is written; the cookie is kept from scripts and other sites', async () => {
    await person('Émile Straße')
    for (const name of [
      'Émile Straße',
      '  émile   STRASSE'.replace('STRASSE', 'straße'),
      'E\u0301mile Straße',
    ]) {
      const browser = new Browser()
      const { status, headers, body } = await browser.ask('post', '/sign-in', { name, password: PASSWORD })
      expect([status, (body as Me).account?.name]).toEqual([200, 'Émile Straße'])
      expect(headers.get('set-cookie')).toMatch(
        /^geodrome-session=[\w-]{43}; .*Path=\/api; .*HttpOnly; SameSite=Strict$/,
      )
      expect(await browser.done('get', '/me')).toMatchObject({ account: { name: 'Émile Straße' } })
      await browser.done('post', '/sign-out')
      expect(await browser.done('get', '/me')).toEqual({ people: true, account: null })
      expect((await browser.ask('get', '/plans')).status).toBe(401)
    }
  })

  it('what is wrong is told alike, whether there is such a name or not', async () => {
    const bea = await person('Bea Closed')
    await root.done('patch', `/accounts/${bea.id}`, { closed: true })
    const { token } = await root.done<MadeInvitation>('post', '/accounts', { name: 'Ida Invited' })
    const told = await Promise.all(
      [
        ['Rosa Ahlquist', 'not it at all'],
        ['Nobody of that name', PASSWORD],
        ['Bea Closed', PASSWORD],
        ['Ida Invited', ''],
      ].map(async ([name, password]) => {
        const { status, body } = await new Browser().ask('post', '/sign-in', { name, password })
        return [status, (body as { message: string }).message]
      }),
    )
    expect(new Set(told.map(String))).toEqual(new Set(['400,this name and password do not belong together']))
    expect(token).not.toBe('')
  })

  it('neither passwords, cookies nor links stand in the database', async () => {
    const { token, id } = await root.done<MadeInvitation>('post', '/accounts', { name: 'Sam Secret' })
    const browser = await welcome(token)
    const { token: second } = await root.done<MadeInvitation>('post', `/accounts/${id}/welcome`)
    const tables = await Promise.all(
      ['accounts', 'sessions', 'welcomes'].map((table) =>
        server.sequelize.query(`SELECT * FROM ${table}`, { type: QueryTypes.SELECT }),
      ),
    )
    const text = JSON.stringify(tables)
    for (const secret of [PASSWORD, token, second, browser.cookie.split('=')[1]!]) {
      expect(secret.length).toBeGreaterThan(15)
      expect(text).not.toContain(secret)
    }
    expect(text).toContain('scrypt$15$8$1$')
  })

  it('ends when the account is closed or the password chosen anew, in every browser', async () => {
    const una = await person('Una Everywhere')
    const second = new Browser()
    await second.done('post', '/sign-in', { name: 'Una Everywhere', password: PASSWORD })
    const { token, until } = await root.done<MadeInvitation>('post', `/accounts/${una.id}/welcome`)
    expect(Date.parse(until) - Date.now()).toBeGreaterThan(6 * 24 * 3600_000)
    expect(await new Browser().done('post', '/welcome', { token })).toEqual({
      name: 'Una Everywhere',
      again: true,
    })
    // Signed in as before until the new one is chosen.
    expect((await una.browser.ask('get', '/plans')).status).toBe(200)
    const short = await new Browser().ask('post', '/welcome/accept', { token, password: 'short' })
    expect([short.status, (short.body as { message: string }).message]).toEqual([
      400,
      expect.stringContaining('at least 10 letters') as string,
    ])
    const third = new Browser()
    await third.done('post', '/welcome/accept', { token, password: 'another long one' })
    for (const gone of [una.browser, second]) expect((await gone.ask('get', '/plans')).status).toBe(401)
    expect((await third.ask('get', '/plans')).status).toBe(200)
    await root.done('patch', `/accounts/${una.id}`, { closed: true })
    expect((await third.ask('get', '/plans')).status).toBe(401)
    const refused = await root.ask('post', `/accounts/${una.id}/welcome`)
    expect([refused.status, (refused.body as { message: string }).message]).toEqual([
      400,
      'Una Everywhere may not sign in; open the account first',
    ])
  })

  it('a link of an invitation that was made anew opens nothing any more, nor does one that has run out', async () => {
    const first = await root.done<MadeInvitation>('post', '/accounts', { name: 'Twice Invited' })
    const second = await root.done<MadeInvitation>('post', `/accounts/${first.id}/welcome`)
    const look = async (token: string): Promise<number> =>
      (await new Browser().ask('post', '/welcome', { token })).status
    expect([await look(first.token), await look(second.token)]).toEqual([404, 200])
    await server.sequelize.query("UPDATE welcomes SET until = '2020-01-01' WHERE account = :id", {
      replacements: { id: first.id },
    })
    expect(await look(second.token)).toBe(404)
  })

  it('a session that nobody used for a week, or that is a month old, is over', async () => {
    for (const column of ['seen_at', 'since']) {
      const { browser, id } = await person(`Away by ${column}`)
      await server.sequelize.query(
        `UPDATE sessions SET ${column} = NOW() - INTERVAL ${column === 'since' ? 31 : 8} DAY WHERE account = :id`,
        { replacements: { id } },
      )
      expect((await browser.ask('get', '/plans')).status).toBe(401)
    }
  })

  it('a stream of changes ends when its listener has no part in the plan any more', async () => {
    const ben = await person('Ben Listens')
    const plan = await newPlan(root)
    await give(root, plan, ben.id, 'reader')
    const stream = await fetch(`${server.address}/api/plans/${plan}/events`, {
      headers: { cookie: ben.browser.cookie },
    })
    const reader = stream.body!.getReader()
    await reader.read()
    await give(root, plan, ben.id, null)
    let isDone = false
    while (!isDone) isDone = (await reader.read()).done
    expect((await ben.browser.ask('get', `/plans/${plan}/events`)).status).toBe(404)
  })
})

describe('accounts', () => {
  const list = (): Promise<PersonAccount[]> => root.done('get', '/accounts')

  it('say who is invited, who signs in, who may not any more, and in how many plans they have a part', async () => {
    await root.done('post', '/accounts', { name: 'Kim Invited' })
    const lou = await person('Lou Plans')
    await newPlan(lou.browser)
    const mia = await person('Mia Gone')
    await root.done('patch', `/accounts/${mia.id}`, { closed: true })
    const of = Object.fromEntries((await list()).map(({ name, state, plans }) => [name, [state, plans]]))
    expect(of).toMatchObject({
      'Kim Invited': ['invited', 0],
      'Lou Plans': ['open', 1],
      'Mia Gone': ['closed', 0],
    })
    const back = await root.done<PersonAccount>('patch', `/accounts/${mia.id}`, { closed: false })
    expect(back.state).toBe('open')
  })

  it('two names that read alike are one; one that cannot be read is none', async () => {
    await root.done('post', '/accounts', { name: 'Dee Double' })
    for (const [name, says] of [
      ['dee double', 'there is an account of that name'],
      ['  Dee\u00a0 Double ', 'there is an account of that name'],
      ['\uff24ee Double', 'there is an account of that name'],
      ['', 'a name is needed'],
      ['   ', 'a name is needed'],
      ['Dee\u0007', 'letters that can be seen'],
      ['x'.repeat(101), 'at most 100 letters'],
    ] as const) {
      const { status, body } = await root.ask('post', '/accounts', { name })
      expect([name, status, (body as { message: string }).message]).toEqual([
        name,
        400,
        expect.stringContaining(says) as string,
      ])
    }
    expect((await list()).filter(({ name }) => /double/i.test(name))).toHaveLength(1)
  })

  it('one administrator who can sign in stays', async () => {
    const admins = (await list()).filter((one) => one.administrator && one.state === 'open')
    const me = (await root.done<Me>('get', '/me')).account!
    for (const other of admins.filter(({ id }) => id !== me.id))
      await root.done('patch', `/accounts/${other.id}`, { administrator: false })
    for (const change of [{ administrator: false }, { closed: true }]) {
      const { status, body } = await root.ask('patch', `/accounts/${me.id}`, change)
      expect([status, (body as { message: string }).message]).toEqual([
        400,
        'one administrator must stay who can sign in; make somebody else one first',
      ])
    }
    expect((await root.ask('get', '/accounts')).status).toBe(200)
  })
})

// The last: whoever comes from here afterwards is stopped as well.
it('who tries many passwords is stopped for a while, the right one included', async () => {
  let status = 0
  let tries = 0
  for (; status !== 429 && tries < 60; tries++)
    status = (await new Browser().ask('post', '/sign-in', { name: 'Rosa Ahlquist', password: `no ${tries}` }))
      .status
  expect(tries).toBeLessThan(40)
  const { status: right, body } = await new Browser().ask('post', '/sign-in', {
    name: 'Rosa Ahlquist',
    password: PASSWORD,
  })
  expect([right, (body as { message: string }).message]).toEqual([429, 'too many attempts; wait ten minutes'])
})
