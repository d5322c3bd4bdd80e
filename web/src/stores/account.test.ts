import { beforeEach, expect, it, vi } from 'vitest'
import type { Me } from '@geodrome/core'

let told: Me
const asked: (string | null)[] = []
vi.mock('../api/client.ts', () => ({
  api: { me: () => Promise.resolve(told), signIn: () => Promise.resolve(told) },
  asksAs: (id: string | null) => asked.push(id),
}))
const is = (id: string | null): Me => ({
  people: true,
  account: id === null ? null : { id, name: `Name of ${id}`, administrator: false },
})
const fresh = async () => {
  vi.resetModules()
  return { account: await import('./account.ts'), identity: await import('./identity.ts') }
}
beforeEach(() => {
  asked.length = 0
  const kept = new Map<string, string>()
  const storage = {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
    removeItem: (key: string) => void kept.delete(key),
  }
  vi.stubGlobal('localStorage', storage)
  vi.stubGlobal('sessionStorage', storage)
})

it('where nobody signs in, changes are signed with what somebody calls themselves', async () => {
  const { account, identity } = await fresh()
  told = { people: false, account: null }
  await account.loadMe()
  expect([account.mustSignIn.value, identity.authorName.value]).toEqual([false, 'Analyst'])
  identity.authorName.value = 'Ann'
  expect(identity.authorName.value).toBe('Ann')
})

it('who is signed in signs with their account, and each page asks as them', async () => {
  const { account, identity } = await fresh()
  told = is(null)
  await account.loadMe()
  expect(account.mustSignIn.value).toBe(true)
  told = is('a')
  await account.signIn('Name of a', 'password')
  expect([account.mustSignIn.value, identity.authorName.value, asked.at(-1)]).toEqual([
    false,
    'Name of a',
    'a',
  ])
})

it('a page stays that of who worked in it: neither a sign-out nor somebody else takes it over', async () => {
  const { account, identity } = await fresh()
  told = is('a')
  await account.loadMe()
  for (const now of [is(null), is('b')]) {
    told = now
    await account.loadMe()
    expect([account.isSignedOut.value, identity.authorName.value, asked]).toEqual([true, 'Name of a', ['a']])
  }
  told = is('a')
  await account.signIn('Name of a', 'password')
  expect(account.isSignedOut.value).toBe(false)
})

it('before anybody was signed in, an answer that nobody is shows no dialog', async () => {
  const { account } = await fresh()
  account.noticeSignedOut()
  expect(account.isSignedOut.value).toBe(false)
})
