import { existsSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { STAGES, type StageFacts, type StageName } from './stages.ts'

const FRESH: StageFacts = {
  activities: 0,
  calendars: 0,
  draftedCalendars: 0,
  resources: 0,
  assignments: 0,
  baselines: 0,
  isUpdated: true,
  compared: 0,
  unconfirmed: 0,
  openEnds: null,
  findings: null,
  hasRequiredFinish: false,
  hasEnds: false,
  isScheduled: true,
  isForecast: false,
}
const doneOf = (facts: Partial<StageFacts>): StageName[] =>
  STAGES.filter(({ state }) => state({ ...FRESH, ...facts }).done).map(({ name }) => name)

describe('the stages', () => {
  it('have each a component where the router looks for it', () => {
    for (const { name } of STAGES) {
      const file = `../stages/${name}/${name[0]!.toUpperCase()}${name.slice(1)}Stage.vue`
      expect(existsSync(new URL(file, import.meta.url)), file).toBe(true)
    }
  })
  it('are none of them done in a plan without anything', () => expect(doneOf({})).toEqual([]))
  it('say what is open, and are done when nothing is', () => {
    const open = { activities: 9, unconfirmed: 2, openEnds: 1, findings: 4 }
    const states = Object.fromEntries(
      STAGES.map(({ name, state }) => [name, state({ ...FRESH, ...open }).open]),
    )
    expect(states).toMatchObject({ network: 3, review: 4, setup: 0 })
    expect(doneOf(open)).toEqual([])
    expect(doneOf({ activities: 9, openEnds: 0, findings: 0 })).toEqual(['network', 'review'])
    // A calendar that is changed but not applied is open.
    expect(doneOf({ calendars: 2 })).toContain('calendars')
    expect(doneOf({ calendars: 2, draftedCalendars: 1 })).not.toContain('calendars')
    // Review that has not looked yet has found nothing, and that says nothing.
    expect(doneOf({ activities: 9, openEnds: null, findings: null })).toEqual([])
    expect(doneOf({ activities: 9, openEnds: 7 })).toEqual([])
    expect(doneOf({ compared: 1 })).toEqual(['scenarios'])
    expect(doneOf({ resources: 3 })).toEqual([])
    expect(doneOf({ resources: 3, assignments: 1 })).toEqual(['resources'])
    expect(doneOf({ baselines: 1 })).toEqual(['progress'])
    expect(doneOf({ baselines: 1, isUpdated: false })).toEqual([])
    expect(doneOf({ hasRequiredFinish: true })).toEqual([])
    expect(doneOf({ hasRequiredFinish: true, hasEnds: true, calendars: 1, isForecast: true })).toEqual([
      'setup',
      'calendars',
      'forecast',
    ])
    expect(doneOf({ calendars: 1, isScheduled: false })).toEqual([])
  })
})
