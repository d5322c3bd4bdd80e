import { pointer, type PlanIssue } from './issue.ts'
import { newLink } from './links.ts'
import type { Link, Plan } from './schema.ts'

/** What is known of the rest of the plan, and where issues go. */
export interface RuleContext {
  /** Whether there is an activity of that id. */
  readonly has: (activity: string) => boolean
  /** Reports a calendar that is not there or never works. */
  readonly usable: (calendar: string, at: string, user: string) => void
  readonly unknown: (at: string, what: string, id: string) => void
  readonly add: (issue: PlanIssue) => void
}

/** The work of risks as links between the activities that it stands between: it must close no loop. */
export const riskWorkLinks = (plan: Plan): Link[] => {
  const known = new Set(plan.activities.map(({ id }) => id))
  return plan.risks.flatMap((risk) =>
    (risk.work ?? [])
      .filter(({ after, before }) => known.has(after) && known.has(before))
      .map(({ after, before }) =>
        newLink({ id: `work of ${risk.id}`, from: after, to: before, type: 'FS', lag: 0 }),
      ),
  )
}

interface Range {
  readonly low: number
  readonly likely: number
  readonly high: number
}
const isOrdered = ({ low, likely, high }: Range): boolean => low >= 0 && low <= likely && likely <= high

/** Rules on what forecasts draw from (spreads, factors, weather, risks), and on what a critical chain names. */
export const checkForecastInputs = (plan: Plan, to: RuleContext): void => {
  const ordered = (range: Range, at: string, what: string, id: string): void => {
    if (!isOrdered(range))
      to.add({
        pointer: at,
        code: 'estimate',
        message: `${what} must have 0 ≤ low ≤ likely ≤ high`,
        ids: id === '' ? [] : [id],
      })
  }
  const groups = new Set(plan.groups.map(({ id }) => id))
  for (const list of ['spreads', 'factors'] as const) {
    const one = list === 'spreads' ? 'spread' : 'factor'
    plan[list].forEach((item, i) => {
      ordered(item, pointer(list, i), `the ${one} "${item.name || item.id}"`, item.id)
      const { scope } = item
      if (scope.group !== undefined && !groups.has(scope.group))
        to.unknown(pointer(list, i, 'scope', 'group'), 'group', scope.group)
      scope.activities?.forEach((id, k) => {
        if (!to.has(id)) to.unknown(pointer(list, i, 'scope', 'activities', k), 'activity', id)
      })
      if ([scope.group, scope.tag, scope.activities].filter((part) => part !== undefined).length > 1)
        to.add({
          pointer: pointer(list, i, 'scope'),
          code: 'shape',
          message: `the scope of the ${one} "${item.name || item.id}" names more than one of group, tag and activities; leave one`,
          ids: [item.id],
        })
    })
  }
  plan.weather.forEach((weather, i) => {
    to.usable(weather.calendar, pointer('weather', i, 'calendar'), `weather "${weather.id}"`)
  })
  const { chain, riskScale } = plan.project
  for (const list of ['chances', 'delays'] as const) {
    const names = new Set<string>()
    riskScale?.[list].forEach(({ name }, i) => {
      const word = name.trim().toLowerCase()
      if (word === '' || names.has(word))
        to.add({
          pointer: pointer('project', 'riskScale', list, i, 'name'),
          code: 'shape',
          message:
            word === ''
              ? 'a word of the scale of risks is empty; name it, or leave it out'
              : `the scale of risks has "${name}" twice; leave one`,
          ids: [],
        })
      names.add(word)
    })
  }
  riskScale?.delays.forEach((step, i) =>
    ordered(
      step,
      pointer('project', 'riskScale', 'delays', i),
      `the delay "${step.name}" of the scale of risks`,
      '',
    ),
  )
  if (chain) {
    if (chain.calendar !== null)
      to.usable(chain.calendar, pointer('chain', 'calendar'), 'the buffers of the critical chain')
    if (chain.drum !== null && !plan.resources.some(({ id }) => id === chain.drum))
      to.unknown(pointer('chain', 'drum'), 'resource', chain.drum)
  }
  const hammocks = new Set(plan.activities.filter(({ kind }) => kind === 'hammock').map(({ id }) => id))
  const isHammock = (id: string): boolean => hammocks.has(id)
  plan.risks.forEach((risk, i) => {
    const named = `risk ${risk.code || risk.id}`
    risk.impacts.forEach((impact, k) => {
      if (!to.has(impact.activity))
        to.unknown(pointer('risks', i, 'impacts', k, 'activity'), 'activity', impact.activity)
      ordered(impact.delay, pointer('risks', i, 'impacts', k, 'delay'), `the delay of ${named}`, risk.id)
    })
    risk.work?.forEach((work, k) => {
      for (const end of ['after', 'before'] as const)
        if (!to.has(work[end])) to.unknown(pointer('risks', i, 'work', k, end), 'activity', work[end])
      if (isHammock(work.after) || isHammock(work.before))
        to.add({
          pointer: pointer('risks', i, 'work', k),
          code: 'hammock-link',
          message: `the work of ${named} hangs on a hammock, which drives nothing; name activities`,
          ids: [risk.id],
        })
      ordered(work.duration, pointer('risks', i, 'work', k, 'duration'), `the work of ${named}`, risk.id)
    })
    if (risk.cost) ordered(risk.cost, pointer('risks', i, 'cost'), `the cost of ${named}`, risk.id)
  })
}
