import { behindIn, comparisonReport, scenarioPlan, type Plan } from '@geodrome/core'
import { UsageError, type Command } from './command.ts'
import { scenarioNamed } from './scenarioNamed.ts'
import { when } from './when.ts'

/** Changes of a scenario that no longer apply, each with why. */
type Void = readonly { readonly change: string; readonly reason: string }[]

/** Changes of a scenario about what the plan has changed since, each with that. */
type Behind = readonly { readonly change: string; readonly since: readonly string[] }[]

const scenarioOf = (
  plan: Plan,
  wanted: string,
): { readonly plan: Plan; readonly void: Void; readonly behind: Behind } => {
  const { id } = scenarioNamed(plan, wanted)
  const { plan: seen, unfit } = scenarioPlan(plan, id)
  return {
    plan: seen,
    void: [...unfit].map(([change, reason]) => ({ change, reason })),
    behind: behindIn(plan, id).map(({ key, since }) => ({ change: key, since })),
  }
}

export const compareCommand: Command = {
  usage: 'FILE [OTHER] [--scenario ID]',
  summary:
    'the plan beside another plan or one of its scenarios: what differs, moved, joined and left the longest path',
  takesTwo: true,
  options: { scenario: { type: 'string' } },
  prepare: ({ scenario }) => {
    return ({ plan }, second) => {
      if ((second === null) === (scenario === undefined))
        throw new UsageError('name a second plan file, or a scenario of the plan with --scenario')
      const other = second ? { plan: second.plan, void: [], behind: [] } : scenarioOf(plan, String(scenario))
      const report = comparisonReport(plan, other.plan)
      const codeOf = new Map([...other.plan.activities, ...plan.activities].map(({ id, code }) => [id, code]))
      const codes = (ids: readonly string[]): string => ids.map((id) => codeOf.get(id) ?? id).join(', ')
      const days = (value: number): string => `${Math.round(value * 100) / 100} d`
      const line = (words: string, ids: readonly string[]): string[] =>
        ids.length === 0 ? [] : [`${words}: ${codes(ids)}`]
      return {
        json: { ...report, void: other.void, behind: other.behind },
        text: () =>
          [
            `Finish ${when(report.finish.before, 'finish')} → ${when(report.finish.after, 'finish')}, ${days(report.finish.days)}`,
            ...report.changed.map(
              ({ what, before, after, days: alone }) =>
                `  ${what}: ${before || 'none'} → ${after || 'none'}${alone === null ? '' : ` (alone ${days(alone)})`}`,
            ),
            ...line('On other dates', report.moved),
            ...line('Joined the longest path', report.longestPath.joined),
            ...line('Left the longest path', report.longestPath.left),
            ...other.behind.map(
              ({ since }) => `Changed in the plan since, under the scenario: ${since.join('; ')}`,
            ),
            ...other.void.map(({ change, reason }) => `Left out, ${change}: ${reason}`),
            '',
          ].join('\n'),
      }
    }
  },
}
