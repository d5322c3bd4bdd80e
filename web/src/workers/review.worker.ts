import {
  accept,
  applyUnchecked,
  CalendarError,
  checkOf,
  compareRevisions,
  fitness,
  foresee,
  fourteenPoints,
  integrityCandidates,
  integrityTest,
  keepReview,
  measureEffects,
  repairAll,
  networkShape,
  ranked,
  reschedule,
  review,
  sayYearsOf,
  schedule,
  spanEnd,
  trendSince,
  weightOf,
  type Change,
  type Effect,
  type Finding,
  type IntegrityTest,
  type Link,
  type Plan,
  type Review,
  type Schedule,
} from '@geodrome/core'
import {
  PAGE,
  type CheckGroup,
  type ReviewAnswers,
  type ReviewAsk,
  type ReviewReply,
  type ReviewRequest,
  type ReviewView,
} from './reviewProtocol.ts'

/** Reviews the plan beside the schedule worker, so that no painted schedule waits for it. */

/** After the last edit; while somebody types nothing is reviewed. */
const QUIET_MS = 600
/** Plans scheduled to measure effects in one go; other messages come in between. */
const SLICE = 12

let plan: Plan | null = null
let current: Schedule | null = null
let found: Review | null = null
/** The version of the plan that `found` belongs to. */
let foundOf = -1
let version = 0
let pass: ReviewView['pass'] = null
let timer: ReturnType<typeof setTimeout> | undefined
let testing = 0
/** Links that were taken away while the plan is open, the last ones. */
let removedLinks: readonly Link[] = []
const KEPT_LINKS = 200

const say = (reply: ReviewReply): void => self.postMessage(reply)
const keyOf = (f: Finding): string => `${f.check} ${f.place}`

/** Changes that came since the plan was last scheduled here: while somebody edits nothing is computed, so that the schedule has both cores. */
let waiting: Change[] = []

const load = (next: Plan, nextVersion: number): void => {
  version = nextVersion
  plan = next
  // What a change closes and brings is said against the review before it; a plan that comes whole has none before it.
  found = null
  waiting = []
  removedLinks = []
  testing++
  current = scheduled(() => schedule(next))
  later(0)
}

const take = (change: Change, nextVersion: number): void => {
  version = nextVersion
  waiting.push(change)
  testing++
  later(QUIET_MS)
}

const later = (ms: number): void => {
  clearTimeout(timer)
  const of = version
  timer = setTimeout(() => run(of), ms)
}

/** Brings plan and schedule up to date. */
const settle = (): void => {
  const changes = waiting
  if (!plan || changes.length === 0) return
  waiting = []
  const change: Change = changes.length === 1 ? changes[0]! : { kind: 'all', changes }
  const [before, next] = [current, applyUnchecked(plan, change).plan]
  remember(plan, next)
  plan = next
  current = scheduled(() => (before ? reschedule(before, next, change) : schedule(next)))
}

/** Keeps the links that a change took away. */
const remember = (before: Plan, after: Plan): void => {
  if (before.links === after.links || after.links.length >= before.links.length) return
  const left = new Set(after.links.map(({ id }) => id))
  removedLinks = [...removedLinks, ...before.links.filter(({ id }) => !left.has(id))].slice(-KEPT_LINKS)
}

const scheduled = (make: () => Schedule): Schedule | null => {
  try {
    const made = make()
    const { requiredFinish } = made.network.plan.project
    sayYearsOf(made.projectStart, spanEnd(made.projectFinish, requiredFinish))
    return made
  } catch (error) {
    if (!(error instanceof CalendarError)) throw error
    return null
  }
}

const run = (of: number): void => {
  if (of !== version) return
  settle()
  if (!plan || !current) return
  const began = performance.now()
  const before = found
  found = review(plan, current, { experiments: 0, removedLinks })
  foundOf = of
  const reviewMs = performance.now() - began
  pass = before && passBetween(before, found)
  say({ kind: 'reviewed', view: viewOf(found, reviewMs) })
  if (unmeasured(found) > 0) timer = setTimeout(() => measure(of, reviewMs), 0)
}

/** Measures effects slice by slice and shows them when all are known. */
const measure = (of: number, reviewMs: number): void => {
  if (!plan || !current || !found || of !== version) return
  found = { ...found, findings: measureEffects(plan, current, found.findings, SLICE) }
  if (unmeasured(found) > 0) return void (timer = setTimeout(() => measure(of, reviewMs), 0))
  found = { ...found, findings: ranked(found.findings) }
  say({ kind: 'reviewed', view: viewOf(found, reviewMs) })
}

const unmeasured = ({ findings }: Review): number =>
  findings.filter((f) => f.effect.kind === 'unmeasured').length

const passBetween = (before: Review, after: Review): ReviewView['pass'] => {
  const was = new Set(before.findings.map(keyOf))
  const is = new Set(after.findings.map(keyOf))
  return {
    gone: before.findings
      .filter((f) => !is.has(keyOf(f)))
      .map((f) => f.message)
      .slice(0, PAGE),
    appeared: after.findings
      .filter((f) => !was.has(keyOf(f)))
      .map((f) => f.message)
      .slice(0, PAGE),
  }
}

const viewOf = (made: Review, reviewMs: number): ReviewView => {
  const byCheck = new Map<string, Finding[]>()
  for (const f of made.findings) {
    const known = byCheck.get(f.check)
    if (known) known.push(f)
    else byCheck.set(f.check, [f])
  }
  const kept = plan!.reviews.at(-1)
  const trend = new Map(kept ? trendSince(made, kept).map((t) => [t.check, t]) : [])
  const groups = [...byCheck].map(([check, findings]): CheckGroup => {
    const activities = new Set(findings.flatMap((f) => f.activities)).size
    const links = new Set(findings.flatMap((f) => f.links)).size
    const t = trend.get(check)
    return {
      check,
      count: findings.length,
      isHeavy: findings.some((f) => f.severity === 'moves-answer'),
      effect: greatest(findings),
      activities,
      links,
      share: shareOf(check, activities, findings),
      findings: findings.slice(0, PAGE).map(slim),
      since: kept
        ? { before: t?.before ?? 0, appeared: t?.appeared ? t.appeared.length : null, gone: t?.gone ?? null }
        : null,
    }
  })
  return {
    version,
    groups: groups.sort(
      (a, b) =>
        weightOf({ effect: b.effect, severity: b.isHeavy ? 'moves-answer' : 'caution' }) -
        weightOf({ effect: a.effect, severity: a.isHeavy ? 'moves-answer' : 'caution' }),
    ),
    open: made.findings.length,
    movers: made.findings.filter((f) => f.severity === 'moves-answer').length,
    accepted: made.accepted
      .slice(0, 10 * PAGE)
      .map(({ finding, acceptance }) => ({ finding: slim(finding), acceptance })),
    acceptedCount: made.accepted.length,
    reopened: made.reopened,
    counts: made.counts,
    limits: made.limits,
    fitness: fitness(made),
    unmeasured: unmeasured(made),
    pass,
    reviewMs,
  }
}

/** What the page does not need stays here: how effects are measured, and repairs, which are previewed when asked for. */
const slim = ({ without: _, repairs: __, ...finding }: Finding): Finding => ({ ...finding, repairs: [] })

const greatest = (findings: readonly Finding[]): Effect =>
  findings.reduce(
    (most, f) =>
      weightOf({ ...f, severity: 'caution' }) > weightOf({ effect: most, severity: 'caution' })
        ? f.effect
        : most,
    findings[0]!.effect,
  )

const shareOf = (check: string, activities: number, findings: readonly Finding[]): number | null => {
  const of = checkOf(check)?.of
  if (of === 'activities') return activities / plan!.activities.length
  if (of === 'links') return new Set(findings.flatMap((f) => f.links)).size / plan!.links.length
  if (of === 'calendars') return findings.length / plan!.calendars.length
  return null
}

const answers: {
  [K in Exclude<ReviewAsk['kind'], 'about'>]: (
    ask: Extract<ReviewAsk, { kind: K }>,
    at: { plan: Plan; schedule: Schedule; review: Review },
  ) => ReviewAnswers[K]
} = {
  page: ({ check, from }, { review: made }) =>
    made.findings
      .filter((f) => f.check === check)
      .slice(from, from + PAGE)
      .map(slim),
  preview: ({ fingerprint }, at) => {
    const finding = at.review.findings.find((f) => f.fingerprint === fingerprint)
    if (!finding) return []
    const siblings = at.review.findings.filter((f) => f.check === finding.check)
    return finding.repairs.map((repair) => ({
      ...repair,
      foresight: slimForesight(foresee(at.plan, at.schedule, repair.change, at.review)),
      alike: siblings.filter((f) => f.repairs.some((r) => r.kind === repair.kind)).length,
    }))
  },
  repairAll: ({ check, repair: kind }, at) => {
    const { plan: from, schedule: scheduled } = at
    const { change, repaired, left } = repairAll(from, scheduled, check, kind)
    return (
      change && {
        change,
        repaired,
        left,
        foresight: slimForesight(foresee(at.plan, at.schedule, change, at.review)),
      }
    )
  },
  accept: ({ fingerprints, reason, by, at: when }, at) => {
    const chosen =
      'check' in fingerprints
        ? at.review.findings.filter((f) => f.check === fingerprints.check)
        : at.review.findings.filter((f) => fingerprints.includes(f.fingerprint))
    return chosen.length === 0 ? null : accept(at.plan, chosen, reason, by, when)
  },
  keep: ({ by, at: when, note }, at) => keepReview(at.plan, at.schedule, at.review, by, when, note),
  points: (_ask, at) => fourteenPoints(at.plan, at.schedule),
  shape: (_ask, at) => networkShape(at.plan, at.schedule),
  revisions: ({ other, direction }, at) => {
    try {
      return direction === 'before' ? compareRevisions(other, at.plan) : compareRevisions(at.plan, other)
    } catch (error) {
      if (!(error instanceof CalendarError)) throw error
      return { problem: `the other revision cannot be scheduled: ${error.message}` }
    }
  },
}

const slimForesight = (seen: ReturnType<typeof foresee>): ReturnType<typeof foresee> =>
  seen.kind === 'refused'
    ? seen
    : {
        ...seen,
        closes: seen.closes && seen.closes.slice(0, PAGE).map(slim),
        opens: seen.opens && seen.opens.slice(0, PAGE).map(slim),
      }

const EMPTY: { [K in ReviewAsk['kind']]: ReviewAnswers[K] } = {
  page: [],
  preview: [],
  repairAll: null,
  accept: null,
  keep: null,
  about: [],
  points: null,
  shape: null,
  revisions: null,
}

const answer = (requestId: number, ask: ReviewAsk): void => {
  // Asked at every selection, and again after each review: the one that is there will do.
  if (ask.kind === 'about')
    return say({
      kind: 'answer',
      requestId,
      answer: found
        ? found.findings
            .filter((f) => f.activities.includes(ask.activity))
            .slice(0, PAGE)
            .map(slim)
        : [],
    })
  settle()
  // What was asked right after an edit is answered on the plan as it is now.
  const now =
    plan && current
      ? found && foundOf === version
        ? found
        : review(plan, current, { experiments: 0 })
      : null
  const at = plan && current && now ? { plan, schedule: current, review: now } : null
  let given: unknown = EMPTY[ask.kind]
  try {
    if (at) given = (answers[ask.kind] as (ask: ReviewAsk, at: unknown) => unknown)(ask, at)
  } catch (error) {
    // A repair that pushes work beyond the hours of its calendar is no repair.
    if (!(error instanceof CalendarError)) throw error
  }
  say({ kind: 'answer', requestId, answer: given })
}

/** One activity a task: it can be stopped between any two, and an edit stops it. */
const test = (activities: readonly string[]): void => {
  const turn = ++testing
  const tests: IntegrityTest[] = []
  const step = (): void => {
    if (turn !== testing || !plan || !current) return
    const until = performance.now() + 40
    while (tests.length < activities.length && performance.now() < until)
      tests.push(integrityTest(plan, current, activities[tests.length]!))
    say({ kind: 'integrity', tests: [...tests], done: tests.length, total: activities.length })
    if (tests.length < activities.length) setTimeout(step, 0)
  }
  step()
}

self.onmessage = ({ data }: MessageEvent<ReviewRequest>): void => {
  switch (data.kind) {
    case 'load':
      return load(data.plan, data.version)
    case 'change':
      return plan ? take(data.change, data.version) : undefined
    case 'ask':
      return answer(data.requestId, data.ask)
    case 'integrity':
      if (data.activities === null) return void testing++
      settle()
      if (plan && current) test(data.activities === 'all' ? integrityCandidates(current) : data.activities)
  }
}
