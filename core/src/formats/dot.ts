import { formatInstant } from '../time/instant.ts'
import type { Schedule } from '../schedule/schedule.ts'

/** A quoted text of DOT: quotes and backslashes escaped, ends of lines as themselves. */
const quoted = (text: string): string =>
  `"${text
    .replaceAll('\\', '\\\\')
    .replaceAll('"', '\\"')
    .replaceAll(/\r?\n|\r/g, '\\n')
    .replaceAll('\0', '')}"`

/**
 * The network in the DOT language (Graphviz): activities as nodes with code, name and dates, links as edges with their type where it is not
 * finish to start, groups as clusters. The longest path is bold.
 */
export const networkDot = ({ network, start, finish, onLongestPath, drives }: Schedule): string => {
  const { plan } = network
  const lines: string[] = [
    `digraph ${quoted(plan.project.name || plan.project.code || 'plan')} {`,
    '  rankdir=LR;',
    '  node [shape=box, style=rounded];',
  ]
  const nodeOf = (i: number): string => {
    const { id, code, name } = plan.activities[i]!
    const label = `${code} ${name}\n${formatInstant(start[i]!)} – ${formatInstant(finish[i]!)}`
    return `${quoted(id)} [label=${quoted(label)}${onLongestPath[i] === 1 ? ', penwidth=2.5' : ''}];`
  }
  const byGroup = new Map<string | null, number[]>()
  plan.activities.forEach(({ group }, i) => byGroup.set(group, [...(byGroup.get(group) ?? []), i]))
  const known = new Set(plan.groups.map(({ id }) => id))
  const groupLines = (parent: string | null, indent: string): void => {
    plan.groups
      .filter((group) => group.parent === parent)
      .forEach(({ id, name, code }) => {
        lines.push(
          `${indent}subgraph ${quoted(`cluster ${id}`)} {`,
          `${indent}  label=${quoted(name || code)};`,
        )
        for (const i of byGroup.get(id) ?? []) lines.push(`${indent}  ${nodeOf(i)}`)
        groupLines(id, `${indent}  `)
        lines.push(`${indent}}`)
      })
  }
  groupLines(null, '  ')
  plan.activities.forEach(({ group }, i) => {
    if (group === null || !known.has(group)) lines.push(`  ${nodeOf(i)}`)
  })
  network.links.forEach(({ from, to, type }, k) => {
    const facts = [
      ...(type === 'FS' ? [] : [`label=${quoted(type)}`]),
      ...(drives[k] === 1 ? [] : ['color=gray']),
    ]
    lines.push(`  ${quoted(from)} -> ${quoted(to)}${facts.length > 0 ? ` [${facts.join(', ')}]` : ''};`)
  })
  lines.push('}', '')
  return lines.join('\n')
}
