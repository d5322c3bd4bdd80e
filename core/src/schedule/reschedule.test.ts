import fc from 'fast-check'
import { expect, it } from 'vitest'
import { applyChange, PlanError, type Change, type Plan } from '../plan/index.ts'
import { reschedule, schedule, type Schedule } from './index.ts'
import { randomPlan } from './testing/randomPlans.ts'

const figures = (s: Schedule): Record<string, unknown> => ({
  start: [...s.start],
  finish: [...s.finish],
  earlyStart: [...s.early.start],
  earlyFinish: [...s.early.finish],
  begin: [...s.early.begin],
  beginCount: [...s.early.beginCount],
  lateStart: [...s.late.start],
  lateFinish: [...s.late.finish],
  shown: [...s.lateFinishShown],
  startLimit: [...s.late.startLimit],
  finishLimit: [...s.late.finishLimit],
  total: [...s.float.total],
  free: [...s.float.free],
  startFloat: [...s.float.start],
  critical: [...s.critical],
  path: [...s.onLongestPath],
  drives: [...s.drives],
  order: [...s.network.order],
  links: s.network.links.map((l) => l.id),
  out: [...s.network.outLink],
  ends: [s.projectStart, s.projectFinish, s.target],
  warnings: s.warnings,
})

/** Edits as an analyst makes them, by numbers that are read against whatever plan is at hand. */
const edit = fc.record({
  kind: fc.nat(9),
  at: fc.nat(),
  other: fc.nat(),
  minutes: fc.integer({ min: 0, max: 1500 }),
  lag: fc.integer({ min: -400, max: 600 }),
  type: fc.constantFrom('FS', 'SS', 'FF', 'SF'),
})
const changeOf = (
  plan: Plan,
  e: { kind: number; at: number; other: number; minutes: number; lag: number; type: string },
): Change => {
  const activity = plan.activities[e.at % plan.activities.length]!
  const link = plan.links[e.at % Math.max(1, plan.links.length)]
  const set = (fields: Record<string, unknown>): Change => ({
    kind: 'set',
    list: 'activities',
    key: activity.id,
    set: fields,
  })
  if (e.kind === 0)
    return set({
      constraints: [{ edge: 'start', rule: 'not-before', date: '2027-03-04T09:00', overrides: false }],
    })
  if (e.kind === 1) return set({ constraints: [], name: 'renamed' })
  if (e.kind === 2) return set({ place: activity.place === 'late' ? 'early' : 'late' })
  if (e.kind <= 4 && link)
    return { kind: 'set', list: 'links', key: link.id, set: e.kind === 3 ? { lag: e.lag } : { type: e.type } }
  if (e.kind === 5)
    return {
      kind: 'all',
      changes: [
        set({ duration: e.minutes }),
        ...(link ? [{ kind: 'remove', list: 'links', key: link.id } as Change] : []),
      ],
    }
  if (e.kind === 7 || e.kind === 8) {
    const to = plan.activities[e.other % plan.activities.length]!
    const made: Change = {
      kind: 'add',
      list: 'links',
      before: null,
      item: {
        id: `n${e.minutes}`,
        from: activity.id,
        to: to.id,
        type: e.type,
        lag: e.kind === 7 ? 0 : e.lag,
      },
    }
    return link && e.kind === 8
      ? { kind: 'all', changes: [{ kind: 'remove', list: 'links', key: link.id }, made, set({ name: 'x' })] }
      : made
  }
  if (e.kind === 9 && link) return { kind: 'remove', list: 'links', key: link.id }
  return set({ duration: e.minutes })
}

it('after any run of edits the schedule equals a full one in every figure', () => {
  fc.assert(
    fc.property(
      fc
        .boolean()
        .chain((progress) => randomPlan({ constraints: true, progress, overrides: true, places: true })),
      fc.array(edit, { minLength: 1, maxLength: 8 }),
      (first, edits) => {
        let plan = first
        let kept = schedule(plan)
        for (const e of edits) {
          const change = changeOf(plan, e)
          try {
            plan = applyChange(plan, change).plan
          } catch (error) {
            if (error instanceof PlanError) continue
            throw error
          }
          kept = reschedule(kept, plan, change)
          expect(figures(kept)).toEqual(figures(schedule(plan)))
        }
      },
    ),
    { numRuns: 800 },
  )
})
