import { PART, type ArrowMap, type Plan } from '@geodrome/core'
import type { ArrowsRequest } from '../../workers/layout.worker.ts'
import { mapGraph, type MapNodeData } from './mapGraph.ts'

/** What the Arrow map draws as arrows: activities, and folded groups as one each. Hammocks wait for nothing and are left out. */
export const arrowUnits = (
  plan: Plan,
  folded: ReadonlySet<string>,
  keeps: ((index: number) => boolean) | null,
): readonly MapNodeData[] =>
  mapGraph(plan, folded, (i) => plan.activities[i]!.kind !== 'hammock' && (!keeps || keeps(i))).nodes

/** The network of these units as numbers, for the worker. `links` are the positions in the plan of the links that it is given. */
export const arrowRequest = (
  plan: Plan,
  units: readonly MapNodeData[],
): { request: Omit<ArrowsRequest, 'id' | 'kind'>; links: readonly number[] } => {
  const position = new Map<string, number>()
  const unit: number[] = []
  for (const [u, { members }] of units.entries())
    for (const i of members) {
      position.set(plan.activities[i]!.id, unit.length)
      unit.push(u)
    }
  const links = [...plan.links.keys()].filter(
    (k) => position.has(plan.links[k]!.from) && position.has(plan.links[k]!.to),
  )
  return {
    links,
    request: {
      unit: Int32Array.from(unit),
      units: units.length,
      from: Int32Array.from(links, (k) => position.get(plan.links[k]!.from)!),
      to: Int32Array.from(links, (k) => position.get(plan.links[k]!.to)!),
      type: links.map((k) => plan.links[k]!.type),
      lagged: Uint8Array.from(links, (k) => (plan.links[k]!.lag === 0 ? 0 : 1)),
    },
  }
}

/** A drawing of the worker with ids for its numbers. */
export const withIds = (
  plan: Plan,
  units: readonly MapNodeData[],
  links: readonly number[],
  { events, arrows }: ArrowMap,
): ArrowMap => {
  const idsOf = (list: readonly string[]): string[] => list.map((u) => units[Number(u)]!.id)
  return {
    events: events.map(({ ends, begins }) => ({ ends: idsOf(ends), begins: idsOf(begins) })),
    arrows: arrows.map((arrow) => ({
      ...arrow,
      activity: arrow.activity === null ? null : units[Number(arrow.activity)]!.id,
      link:
        arrow.link === null || arrow.link.startsWith(PART)
          ? arrow.link
          : plan.links[links[Number(arrow.link)]!]!.id,
    })),
  }
}
