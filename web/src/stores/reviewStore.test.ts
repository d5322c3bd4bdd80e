import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { readPlan, type Change, type Plan } from '@geodrome/core'

/** What the store is given: a plan in view, and a worker that says what it was told. */
interface Follower {
  load(): void
  change(change: Change): void
  closed(): void
}
const open = { plan: null as Plan | null, follower: null as Follower | null }
const told: string[] = []
vi.stubGlobal('sessionStorage', { getItem: () => null, setItem: () => undefined })
vi.mock('./planStore.ts', () => ({
  usePlanStore: () => ({
    get plan() {
      return open.plan
    },
    follow: (follower: Follower) => void (open.follower = follower),
  }),
}))
vi.mock('../workers/reviewClient.ts', () => ({
  ReviewClient: class {
    load(plan: Plan): void {
      told.push(`load ${plan.project.name}`)
    }
    change(): void {
      told.push('change')
    }
    ask({ kind }: { kind: string }): Promise<string> {
      told.push(`ask ${kind}`)
      return Promise.resolve(kind)
    }
    test(activities: unknown): void {
      told.push(`test ${String(activities)}`)
    }
    stop(): void {
      told.push('stop')
    }
  },
}))
const { useReviewStore } = await import('./reviewStore.ts')
const named = (name: string): Plan =>
  readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: { name, start: '2027-03-01' },
    activities: [{ id: 'a', duration: '1d' }],
  }).plan
const RENAMED: Change = { kind: 'project', set: { name: 'Refit' } }

describe('the review of the plan in view', () => {
  let store: ReturnType<typeof useReviewStore>
  const show = (name: string): void => {
    open.plan = named(name)
    open.follower!.load()
  }
  beforeEach(() => {
    vi.useFakeTimers()
    setActivePinia(createPinia())
    store = useReviewStore()
    show('as it was')
    vi.runAllTimers()
    told.length = 0
  })
  afterEach(() => {
    open.follower!.closed()
    vi.useRealTimers()
  })

  it('is handed a plan in a quiet moment, the last of several', () => {
    show('as it is')
    show('a scenario')
    expect(told).toEqual([])
    vi.runAllTimers()
    expect(told).toEqual(['load a scenario'])
  })

  it('answers of the plan that came into view just now, not of the one before it', async () => {
    show('as it is')
    await store.ask({ kind: 'revisions', other: named('earlier'), direction: 'before' })
    vi.runAllTimers()
    expect(told).toEqual(['load as it is', 'ask revisions'])
    told.length = 0
    show('a scenario')
    store.test('all')
    expect(told).toEqual(['load a scenario', 'test all'])
  })

  it('does not hurry for what is asked with every selection', async () => {
    show('as it is')
    await store.ask({ kind: 'about', activity: 'a' })
    expect(told).toEqual(['ask about'])
    vi.runAllTimers()
    expect(told).toEqual(['ask about', 'load as it is'])
  })

  it('is told an edit at once, but of a plan that waits only with it', () => {
    open.follower!.change(RENAMED)
    expect(told).toEqual(['change'])
    show('as it is')
    open.follower!.change(RENAMED)
    vi.runAllTimers()
    expect(told).toEqual(['change', 'load as it is'])
  })

  it('says nothing where no plan is open, and does not hand over one that was closed', async () => {
    show('as it is')
    open.follower!.closed()
    open.plan = null
    vi.runAllTimers()
    expect(told).toEqual(['stop'])
    expect(await store.ask({ kind: 'points' })).toBeNull()
  })
})
