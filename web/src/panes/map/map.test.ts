import { readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import {
  arrowMap,
  foldedNetwork,
  nextWork,
  parseJson,
  readPlan,
  routedLayout,
  schedule,
  DAYLIGHT,
} from '@geodrome/core'
import { useCalendars } from '../../composables/useCalendars.ts'
import type { ScheduleView } from '../../workers/scheduleProtocol.ts'
import { cellContext } from '../rows/cellContext.ts'
import { arrowRequest, arrowUnits, withIds } from './arrowNetwork.ts'
import { arrowTimes } from './arrowTimes.ts'
import { diagramSvg } from './diagramSvg.ts'
import { mapGraph } from './mapGraph.ts'
import { NODE_HEIGHT, NODE_WIDTH } from './mapNode.ts'
import { boxAt, mapWay } from './mapWay.ts'

const { plan } = readPlan(
  parseJson(readFileSync(new URL('../../../../demo/kiln.geodrome.json', import.meta.url), 'utf8')),
)
const made = schedule(plan)
const view = {
  start: made.start,
  finish: made.finish,
  lateStart: made.late.start,
  lateFinish: made.lateFinishShown,
  projectStart: made.projectStart,
  drives: new Uint8Array(plan.links.length),
} as never as ScheduleView
const context = cellContext(plan, view, useCalendars(() => plan).value!, false)

it('an event is reached just when what begins there can begin, and must be by the first late start', () => {
  const map = arrowMap(
    plan.activities.map((a) => a.id),
    plan.links,
  )
  const times = arrowTimes(map, arrowUnits(plan, new Set(), null), context)
  const at = (id: string): number => plan.activities.findIndex((a) => a.id === id)
  map.events.forEach((event, e) => {
    if (event.begins.length === 0) return
    expect(nextWork(context.calendars.project, times[e]!.earliest)).toBe(
      nextWork(context.calendars.project, Math.min(...event.begins.map((id) => view.start[at(id)]!))),
    )
    expect(times[e]!.latest).toBeLessThanOrEqual(
      Math.min(...event.begins.map((id) => view.lateStart[at(id)]!)),
    )
    expect(times[e]!.slack).toBeGreaterThanOrEqual(0)
    // Said as the end of work that it is: without slack it is reached when it must be, else work stands before both.
    const { earliest, latest, slack } = times[e]!
    const { project } = context.calendars
    if (slack === 0) expect(latest).toBe(earliest)
    else expect(project.countBefore(latest) - project.countBefore(latest - 1)).toBe(1)
    expect(project.countBefore(latest) - project.countBefore(earliest)).toBe(slack)
  })
  expect(times.at(-1)!.earliest).toBe(made.projectFinish)
})
it('a folded group spans its activities, and what waits for part of it is reached when it is', () => {
  const units = arrowUnits(plan, new Set(plan.groups.map((g) => g.id)), null)
  const { request, links } = arrowRequest(plan, units)
  const numbered = request.type.map((type, k) => ({
    id: String(k),
    from: request.from[k]!,
    to: request.to[k]!,
    type,
    lag: request.lagged[k]!,
  }))
  const map = withIds(
    plan,
    units,
    links,
    arrowMap(
      units.map((_, u) => String(u)),
      foldedNetwork(plan.activities.length, request.unit, units.length, numbered),
    ),
  )
  const times = arrowTimes(map, units, context)
  for (const arrow of map.arrows.filter((a) => a.kind === 'work')) {
    const members = units.find((u) => u.id === arrow.activity)!.members
    expect(times[arrow.to]!.earliest).toBeGreaterThanOrEqual(Math.max(...members.map((i) => view.finish[i]!)))
    expect(times[arrow.from]!.latest).toBeLessThanOrEqual(Math.min(...members.map((i) => view.lateStart[i]!)))
  }
  expect(times.at(-1)!.earliest).toBe(made.projectFinish)
})
it('folded groups stand for what is in them; two that lead to each other make no loop', () => {
  const whole = mapGraph(plan, new Set(), null)
  expect([whole.nodes.length, whole.edges.length]).toEqual([9, 11])
  const folded = mapGraph(plan, new Set(plan.groups.map((g) => g.id)), null)
  expect(folded.nodes.map((n) => n.members.length)).toEqual([6, 3])
  expect(folded.edges).toHaveLength(1)
  // What is not drawn is counted: the links that cross the border the other way.
  const crossing = plan.links.filter((l) => folded.nodeOf.get(l.from) !== folded.nodeOf.get(l.to)).length
  expect(folded.leftOut).toBe(crossing - folded.edges[0]!.links.length)
  expect(whole.leftOut).toBe(0)
  expect(folded.nodeOf.get(plan.activities[0]!.id)).toBe(0)
})

/** Points along a way of cubic curves and lines, close enough that none of them steps over a box. */
const pointsOf = (path: string): [number, number][] => {
  const points: [number, number][] = []
  for (const [, command, numbers] of path.matchAll(/([MLC])([^MLC]*)/g)) {
    const n = numbers!.split(/[ ,]/).map(Number)
    const [x0, y0] = points.at(-1) ?? [n[0]!, n[1]!]
    const [a, b] = command === 'C' ? [n.slice(0, 4), n.slice(4)] : [[x0, y0, n[0]!, n[1]!], n]
    for (let step = 1; step <= 200; step++) {
      const t = step / 200
      const u = 1 - t
      const mix = (p: number, q: number, r: number, s: number): number =>
        u ** 3 * p + 3 * u * u * t * q + 3 * u * t * t * r + t ** 3 * s
      points.push([mix(x0, a[0]!, a[2]!, b[0]!), mix(y0, a[1]!, a[3]!, b[1]!)])
    }
  }
  return points
}
it('a link of the Map runs behind no box, whatever its type', () => {
  const { nodes, edges } = mapGraph(plan, new Set(), null)
  const layout = routedLayout(
    nodes.length,
    edges.map((e) => e.from),
    edges.map((e) => e.to),
  )
  edges.forEach((edge, at) => {
    for (const type of ['FS', 'SS', 'FF', 'SF'] as const) {
      const points = pointsOf(mapWay(layout, { at, ...edge }, type).path)
      nodes.forEach((_, k) => {
        const { x, y } = boxAt(layout, k)
        const hidden = points.filter(
          ([px, py]) => px > x + 1 && px < x + NODE_WIDTH - 1 && py > y + 1 && py < y + NODE_HEIGHT - 1,
        )
        expect(hidden, `${type} ${edge.id} behind ${nodes[k]!.id}`).toEqual([])
      })
      const [first, last] = [boxAt(layout, edge.from), boxAt(layout, edge.to)]
      expect(points[0]![0]).toBeCloseTo(first.x + (type.startsWith('F') ? NODE_WIDTH : 0))
      expect(points.at(-1)![0]).toBeCloseTo(last.x + (type.endsWith('F') ? NODE_WIDTH : 0))
    }
  })
})
it('a saved drawing is as large as what it covers: boxes, words under events and ways round boxes', () => {
  const svg = diagramSvg(
    [
      { x: 0, y: 0, width: 184, height: 62, lines: [['K10', '']], strong: false, round: false },
      { x: 300, y: 10, width: 40, height: 40, lines: [['20', '']], strong: true, round: true },
    ],
    [{ path: 'M0,31C-13,31 -13,71 0,71L340,71', strong: true, dash: '', label: [], at: [0, 0] }],
    DAYLIGHT,
    'Kiln',
  )
  const [, width, height, left, top, across, down] =
    /width="(\S+)" height="(\S+)" viewBox="(\S+) (\S+) (\S+) (\S+)"/.exec(svg)!.map(Number)
  expect([width, height]).toEqual([across, down])
  expect(left).toBeLessThan(-13)
  expect(top).toBeLessThan(0)
  expect(left! + width!).toBeGreaterThan(400)
  expect(top! + height!).toBeGreaterThan(76)
})
