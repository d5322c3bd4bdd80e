import { formatInstant } from '../time/instant.ts'
import { NONE } from '../network/network.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { xmlText } from '../words/xmlText.ts'

const NODE_KEYS = [
  ['code', 'string'],
  ['name', 'string'],
  ['kind', 'string'],
  ['group', 'string'],
  ['duration', 'int'],
  ['start', 'string'],
  ['finish', 'string'],
  ['totalFloat', 'int'],
  ['onLongestPath', 'boolean'],
] as const
const EDGE_KEYS = [
  ['type', 'string'],
  ['lag', 'int'],
  ['nature', 'string'],
  ['drives', 'boolean'],
] as const
type Value = string | number | boolean

/**
 * The network as GraphML (http://graphml.graphdrawing.org, version 1.0): activities as nodes, links as edges; durations, lags and floats in
 * working minutes, dates as YYYY-MM-DDTHH:MM.
 */
export const networkGraphMl = (schedule: Schedule): string => {
  const { network } = schedule
  const { plan } = network
  const groups = new Map(plan.groups.map(({ id, name, code }) => [id, name || code]))
  const data = (prefix: string, values: Readonly<Record<string, Value | null>>): string =>
    Object.entries(values)
      .filter((entry): entry is [string, Value] => entry[1] !== null)
      .map(([key, value]) => `<data key="${prefix}.${key}">${xmlText(String(value))}</data>`)
      .join('')
  const nodes = plan.activities.map((activity, i) => {
    const { id, code, name, kind, group, duration } = activity
    const float = schedule.float.total[i]!
    const values = {
      code,
      name,
      kind,
      group: group === null ? null : (groups.get(group) ?? null),
      duration,
      start: formatInstant(schedule.start[i]!),
      finish: formatInstant(schedule.finish[i]!),
      totalFloat: float === NONE ? null : float,
      onLongestPath: schedule.onLongestPath[i] === 1,
    }
    return `    <node id="${xmlText(id)}">${data('n', values)}</node>`
  })
  const edges = network.links.map(({ id, from, to, type, lag, nature }, k) => {
    const values = { type, lag, nature, drives: schedule.drives[k] === 1 }
    return `    <edge id="${xmlText(id)}" source="${xmlText(from)}" target="${xmlText(to)}">${data('e', values)}</edge>`
  })
  const keys = [
    ...NODE_KEYS.map(([name, type]) => ['n', 'node', name, type] as const),
    ...EDGE_KEYS.map(([name, type]) => ['e', 'edge', name, type] as const),
  ].map(
    ([prefix, of, name, type]) =>
      `  <key id="${prefix}.${name}" for="${of}" attr.name="${name}" attr.type="${type}"/>`,
  )
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<graphml xmlns="http://graphml.graphdrawing.org/xmlns" xmlns:xsi="http://www.w3.org/2001/XMLSchema-instance" xsi:schemaLocation="http://graphml.graphdrawing.org/xmlns http://graphml.graphdrawing.org/xmlns/1.0/graphml.xsd">',
    ...keys,
    `  <graph id="${xmlText(plan.project.code || 'plan')}" edgedefault="directed">`,
    ...nodes,
    ...edges,
    '  </graph>',
    '</graphml>',
    '',
  ].join('\n')
}
