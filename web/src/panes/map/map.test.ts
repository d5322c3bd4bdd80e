import { readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import { arrowMap, nextWork, parseJson, readPlan, schedule } from '@geodrome/core'
import { useCalendars } from '../../composables/useCalendars.ts'
import type { ScheduleView } from '../../workers/scheduleProtocol.ts'
import { cellContext } from '../rows/cellContext.ts'
import { arrowTimes } from './arrowTimes.ts'
import { mapGraph } from './mapGraph.ts'

const { plan } = readPlan(parseJson(readFileSync(new URL('../../../../demo/kiln.geodrome.json', import.meta.url), 'utf8')))
const made = schedule(plan)
const view = { start: made.start, finish: made.finish, lateStart: made.late.start, lateFinish: made.lateFinishShown, projectStart: made.projectStart, drives: new Uint8Array(plan.links.length) } as never as ScheduleView
const context = cellContext(plan, view, useCalendars(() => plan).value!, false)

it('an event is reached just when what begins there can begin, and must be by the first late start', () => {
  const map = arrowMap(plan.activities.map((a) => a.id), plan.links)
  const times = arrowTimes(map, context)
  const at = (id: string): number => plan.activities.findIndex((a) => a.id === id)
  map.events.forEach((event, e) => {
    if (event.begins.length === 0) return
    expect(nextWork(context.calendars.project, times[e]!.earliest)).toBe(nextWork(context.calendars.project, Math.min(...event.begins.map((id) => view.start[at(id)]!))))
    expect(times[e]!.latest).toBeLessThanOrEqual(Math.min(...event.begins.map((id) => view.lateStart[at(id)]!)))
    expect(times[e]!.slack).toBeGreaterThanOrEqual(0)
  })
  expect(times.at(-1)!.earliest).toBe(made.projectFinish)
})
it('folded groups stand for what is in them; two that lead to each other make no loop', () => {
  const whole = mapGraph(plan, new Set(), null)
  expect([whole.nodes.length, whole.edges.length]).toEqual([9, 11])
  const folded = mapGraph(plan, new Set(plan.groups.map((g) => g.id)), null)
  expect(folded.nodes.map((n) => n.members.length)).toEqual([6, 3])
  expect(folded.edges).toHaveLength(1)
  expect(folded.nodeOf.get(plan.activities[0]!.id)).toBe(0)
})
