import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { LIST_NAMES, type Change } from '../plan/index.ts'
import { invitationSchema, mayDo, RIGHTS, ROLE_NAMES, ROLES, welcomedSchema, whyNotChange } from './people.ts'

const set = (list: string, fields: object): Change =>
  ({ kind: 'set', list, key: 'k', set: fields }) as unknown as Change
const project = (fields: object): Change => ({ kind: 'project', set: fields }) as unknown as Change

describe('roles', () => {
  it('each have all that those before them have, and one right more', () => {
    expect(ROLE_NAMES.map((role) => ROLES[role].right)).toEqual([...RIGHTS])
    ROLE_NAMES.forEach((role, k) =>
      expect(RIGHTS.map((right) => mayDo(role, right))).toEqual(RIGHTS.map((_, at) => at <= k)),
    )
    expect(RIGHTS.some((right) => mayDo(null, right))).toBe(false)
  })
})

describe('what a planner on site says', () => {
  it('is progress, promises, steps, notes, the status date and what was kept of an update', () => {
    const said: Change[] = [
      set('activities', { progress: {}, promise: null, checklist: [], notes: '' }),
      project({ statusDate: '2027-05-10' }),
      { kind: 'add', list: 'periods', item: { id: 'p' }, before: null },
      { kind: 'remove', list: 'periods', key: 'p' },
    ]
    for (const change of [...said, { kind: 'all', changes: said } as const])
      expect(whyNotChange('site', change)).toBeNull()
  })

  it('is nothing else, however it is wrapped: one part that is not his makes the whole not his', () => {
    const notHis = fc.oneof(
      fc.constantFrom<Change>(
        set('activities', { duration: 1 }),
        set('activities', { progress: {}, duration: 1 }),
        set('activities', { __proto__x: 1 }),
        project({ statusDate: null, name: 'x' }),
        project({ start: '2027-01-01' }),
      ),
      fc
        .constantFrom(...LIST_NAMES.filter((list) => list !== 'periods'))
        .chain((list) =>
          fc.constantFrom<Change>(
            { kind: 'add', list, item: { id: 'x' }, before: null },
            { kind: 'remove', list, key: 'x' },
            { kind: 'move', list, key: 'x', before: null },
          ),
        ),
    )
    const his = set('activities', { progress: {} })
    fc.assert(
      fc.property(notHis, fc.nat(3), fc.nat(2), (change, at, depth) => {
        const changes = [his, his, his]
        changes.splice(at, 0, change)
        let whole: Change = { kind: 'all', changes }
        for (let k = 0; k < depth; k++) whole = { kind: 'all', changes: [his, whole] }
        expect(whyNotChange('site', whole)).toContain('which its analysts do')
        expect(whyNotChange('reader', whole)).toContain('you may read this plan')
        expect(whyNotChange(null, whole)).not.toBeNull()
        expect(whyNotChange('analyst', whole)).toBeNull()
      }),
    )
    expect(whyNotChange('reader', his)).not.toBeNull()
  })
})

describe('names and passwords', () => {
  it('a name is one line of letters that can be seen', () => {
    const read = (name: string): string | null => {
      const found = invitationSchema.safeParse({ name })
      return found.success ? found.data.name : null
    }
    expect(read('  Ben \t Foreman\n')).toBe('Ben Foreman')
    expect(read('E\u0301mile')).toBe('Émile')
    for (const bad of ['', ' \n ', 'a\u0000b', 'a\u200fb', 'x'.repeat(101)])
      expect([bad, read(bad)]).toEqual([bad, null])
  })
  it('a password is kept as it is typed, blanks and all, and not too short', () => {
    const of = (password: string) => welcomedSchema.safeParse({ token: 't', password })
    expect(of('  ten blanks  ').data?.password).toBe('  ten blanks  ')
    for (const bad of ['', 'ninechars', 'x'.repeat(201)]) expect(of(bad).success).toBe(false)
  })
})
