import { printReport } from '@geodrome/print'
import {
  alternativeBeside,
  reportOf,
  comparedPlan,
  daysOwed,
  DRIVERS_ASKED,
  chainReport,
  activityCosts,
  applyChange,
  applyUnchecked,
  arrangeRows,
  arrowMap,
  backwardPass,
  compareRevisions,
  compileNetwork,
  costCurve,
  crash,
  loadSolver,
  emptyEarlyDates,
  emptyLateDates,
  explain,
  foresee,
  forwardPass,
  freeze,
  impliedLinks,
  latestFinish,
  level,
  levelPass,
  loadsOf,
  readPlan,
  reschedule,
  review,
  routedLayout,
  iterationTable,
  runIterations,
  schedule,
  scheduleNetwork,
  simulationModel,
  varianceOf,
  type Change,
  type Plan,
  type Schedule,
} from '@geodrome/core'
import { generateFile, generatePlan, withCrashData, withResources } from './generate.ts'
import { allocation, measure, report } from './measure.ts'
import { onTwoThreads } from './twoThreads.ts'

/** Prints the figures of the architecture's table that exist so far, each beside its budget. `--scope part` runs the lines that contain it. */
const at = process.argv.indexOf('--scope')
const scope = at < 0 ? '' : process.argv[at + 1]!
const line = (what: string, budget: number | null, prepare: () => () => unknown, rounds?: number): void => {
  if (!what.includes(scope)) return
  report(what, measure(prepare(), rounds), budget)
}

console.log(`node ${process.version}, median of repeated runs (fastest … slowest)\n`)
for (const [n, pass, preparation] of [
  [10_000, 5, 6],
  [100_000, 40, 70],
] as const) {
  const plan = generatePlan(n)
  const network = compileNetwork(plan)
  line(
    `schedule: both passes and floats, ${n.toLocaleString('en')} activities`,
    pass,
    () => () => scheduleNetwork(network),
  )
  line(
    `schedule: preparation, ${n.toLocaleString('en')} activities`,
    preparation,
    () => () => compileNetwork(plan),
  )
}
if ('allocation'.includes(scope)) {
  const network = compileNetwork(generatePlan(10_000))
  const [early, late] = [emptyEarlyDates(10_000), emptyLateDates(10_000)]
  const bytes = allocation(() => {
    forwardPass(network, network.remaining, early)
    backwardPass(network, network.remaining, latestFinish(network, early), late)
  }, 10_000)
  console.log(`${'allocation of both passes, bytes an activity'.padEnd(62)} ${bytes.toFixed(2).padStart(8)}`)
}
const plan = generatePlan(10_000)
const made = schedule(plan)
const edits = Array.from({ length: 40 }, (_, k): Change => ({
  kind: 'set',
  list: 'activities',
  key: `a${(k * 7919) % 10_000}`,
  set: { duration: 500 + k * 40 },
}))
const edited = edits.map((change) => applyUnchecked(plan, change).plan)
let turn = 0
line(
  'edit, incremental: one duration of 10,000',
  1,
  () => () => {
    const at = turn++ % edits.length
    return reschedule(made, edited[at]!, edits[at]!)
  },
  41,
)
line(
  'edit: apply and check one duration of 10,000',
  15,
  () => () => applyChange(plan, edits[turn++ % edits.length]!),
  41,
)
line('edit: add a link to 10,000, apply, check, prepare, schedule', 50, () => () => {
  const change: Change = {
    kind: 'add',
    list: 'links',
    before: null,
    item: { id: 'bench', from: 'a10', to: 'a9000', lag: 0 },
  }
  return reschedule(made, applyChange(plan, change).plan, change)
})
line(
  'list: 10,000 activities of an outline as rows',
  null,
  () => () =>
    arrangeRows(plan, {
      collapsed: new Set(),
      keeps: null,
      compare: null,
      across: false,
      heading: null,
    }),
)
line('map: boxes and ways of 10,000 activities, 20,000 links', null, () => {
  const at = new Map(plan.activities.map(({ id }, i) => [id, i]))
  const [from, to] = [
    plan.links.map((link) => at.get(link.from)!),
    plan.links.map((link) => at.get(link.to)!),
  ]
  return () => routedLayout(plan.activities.length, from, to)
})
line(
  'revisions: an update of 300 reports on 10,000 activities',
  null,
  () => {
    const later: Change = {
      kind: 'all',
      changes: [
        { kind: 'project', set: { statusDate: '2027-06-01T08:00' } },
        ...plan.activities.slice(0, 300).map(({ id }): Change => ({
          kind: 'set',
          list: 'activities',
          key: id,
          set: {
            progress: {
              actualStart: '2027-05-03T08:00',
              actualFinish: '2027-05-04T16:00',
              remaining: null,
              percent: 0,
              actualCost: null,
            },
          },
        })),
      ],
    }
    const after = applyUnchecked(plan, later).plan
    return () => compareRevisions(plan, after)
  },
  3,
)
line('explanation of one activity, 10,000 activities', 2, () => () => explain(made, 'a5000'))
line('review, 10,000 activities, with the effect of every finding', 60, () => () => review(plan, made), 11)
line(
  'review: 100 repairs previewed, 10,000 activities',
  1000,
  () => {
    const repairs = review(plan, made, { experiments: 0 })
      .findings.flatMap((f) => f.repairs.slice(0, 1))
      .slice(0, 100)
    return () => repairs.map(({ change }) => foresee(plan, made, change, null))
  },
  5,
)
line('review: implied links of 10,000 activities, 20,000 links', null, () => () => impliedLinks(plan), 11)
line(
  'review: one preview with the findings it would close and bring',
  null,
  () => {
    const found = review(plan, made)
    const { change } = found.findings.find((f) => f.repairs.length > 0)!.repairs[0]!
    return () => foresee(plan, made, change, found)
  },
  5,
)
line(
  'simulation: 200 activities × 10,000 iterations, one thread',
  600,
  () => {
    const model = simulationModel(generatePlan(200), {
      iterations: 10_000,
      seed: 1,
      sampling: 'lhs',
      risks: true,
    })
    return () => runIterations(model, iterationTable(model))
  },
  3,
)
for (const [activities, budget, rounds] of [
  [200, 100, 9],
  [10_000, 3000, 3],
] as const) {
  const name = `simulation: ${activities.toLocaleString('en')} activities × 10,000 iterations, two threads`
  if (!name.includes(scope)) continue
  const times = await onTwoThreads({ activities, iterations: 10_000 }, rounds)
  report(name, { median: times[rounds >> 1]!, low: times[0]!, high: times.at(-1)! }, budget)
}
line(
  'days owed: 20 drivers, 200 activities × 5,000 iterations, one thread',
  1000,
  () => {
    const plan = generatePlan(200)
    const model = simulationModel(plan, { iterations: 5000, seed: 1, sampling: 'lhs', risks: true })
    const drivers = model.varying
      .slice(0, DRIVERS_ASKED)
      .map(({ activity }) => ({ kind: 'spread' as const, id: plan.activities[activity]!.id }))
    return () => daysOwed(model, 80, drivers)
  },
  1,
)
line(
  'scenarios: six of 200 activities beside the plan, without their simulations',
  1500,
  () => {
    const plan = generatePlan(200)
    const others = plan.activities
      .slice(50, 56)
      .map(
        ({ id }) =>
          applyChange(plan, { kind: 'set', list: 'activities', key: id, set: { duration: 60 } }).plan,
      )
    return () => {
      const base = comparedPlan(plan)
      for (const other of others) alternativeBeside(base, other)
    }
  },
  3,
)
line(
  'scenarios: six beside the plan, 5,000 paired iterations of each of the seven, one thread',
  1500,
  () => {
    const plan = generatePlan(200)
    const options = { iterations: 5000, seed: 1, sampling: 'lhs', risks: true } as const
    const shorter = plan.activities
      .slice(50, 56)
      .map(
        ({ id }) =>
          applyChange(plan, { kind: 'set', list: 'activities', key: id, set: { duration: 60 } }).plan,
      )
    const all = [plan, ...shorter]
    return () => {
      const base = comparedPlan(plan)
      for (const [k, one] of all.entries()) {
        if (k > 0) alternativeBeside(base, one)
        const model = simulationModel(one, options)
        runIterations(model, iterationTable(model))
      }
    }
  },
  1,
)
line(
  'report: all parts of 130 activities, 1,000 iterations, without the setting of its pages',
  null,
  () => {
    const plan = generatePlan(130)
    return () => reportOf(plan, { iterations: 1000, seed: 1, at: 40_000_000 })
  },
  3,
)
if ('report: pdf'.includes(scope)) {
  const made = reportOf(generatePlan(130), { iterations: 1000, seed: 1, at: 40_000_000 })
  const times: number[] = []
  for (let k = 0; k < 4; k++) {
    const began = performance.now()
    await printReport(made)
    times.push(performance.now() - began)
  }
  // The first loads the fonts.
  const [first, ...rest] = times
  rest.sort((x, y) => x - y)
  report('report: pdf of 130 activities, the first one', { median: first!, low: first!, high: first! }, 5000)
  report('report: pdf, a further one', { median: rest[1]!, low: rest[0]!, high: rest[2]! }, 5000)
}
for (const [n, budget] of [
  [500, 40],
  [5000, 3000],
] as const)
  line(
    `crashing: the whole curve of ${n.toLocaleString('en')} activities`,
    budget,
    () => {
      const crashable = withCrashData(n)
      return () => crash(crashable, {})
    },
    3,
  )
const solver = await loadSolver()
line(
  'crashing: one deadline, halfway to the shortest, of 500 activities',
  20,
  () => {
    const crashable = withCrashData(500)
    const { normal, shortest } = crash(crashable, {})
    const deadline = { minutes: Math.round((normal.minutes + shortest.minutes) / 2) }
    return () => crash(crashable, { deadline })
  },
  3,
)
line(
  'crashing: one deadline in whole days with 30 activities that can be crashed',
  1000,
  () => {
    const all = withCrashData(200)
    const activities = all.activities.map((one, i) =>
      i % 6 === 0 && i < 180 ? one : { ...one, crash: null },
    )
    const crashable = { ...all, activities }
    const { normal, shortest } = crash(crashable, { deadline: { minutes: 1e9 }, whole: 1 }, solver)
    const deadline = { minutes: Math.round((normal.minutes + shortest.minutes) / 2) }
    return () => crash(crashable, { deadline, whole: 1 }, solver)
  },
  3,
)
for (const [n, budget] of [
  [200, 200],
  [2000, 5000],
] as const)
  line(
    `critical chain: ${n.toLocaleString('en')} activities with ${n / 20} resources, with its buffers`,
    budget,
    () => {
      const crewed = withResources(generatePlan(n), n / 20)
      return () => chainReport(crewed)
    },
    3,
  )
line(
  'arrow map: events and dummies of 1,000 activities',
  null,
  () => {
    const { activities, links } = generatePlan(1000)
    const ids = activities.map((a) => a.id)
    return () => arrowMap(ids, links)
  },
  3,
)
line(
  'import: read a plan file of 10,000 activities',
  3000,
  () => {
    const file = generateFile(10_000)
    return () => readPlan(file)
  },
  5,
)

const staffed = withResources(plan, 50)
/** Of two states of a plan in turns, as an edit and its undoing: asked about the same one again, some of the answer would be there. */
const inTurns = (before: Plan, after: Plan, ask: (dates: Schedule) => unknown): (() => unknown) => {
  const both = [schedule(before), schedule(after)]
  let round = 0
  return () => ask(both[round++ % 2]!)
}
const laterProject = (): Plan => ({ ...staffed, project: { ...staffed.project, start: '2027-01-05T07:00' } })
/** One activity takes two days longer, which moves some ten. */
const someMoved = (): Plan => {
  const dates = schedule(staffed)
  const edited = (k: number): Plan => {
    const { id: key, duration } = staffed.activities[k]!
    const set = { duration: duration + 960 }
    return applyChange(staffed, { kind: 'set', list: 'activities', key, set }).plan
  }
  const moves = (after: Plan): number => {
    const { start } = schedule(after)
    return start.reduce((sum, at, i) => sum + (at === dates.start[i] ? 0 : 1), 0)
  }
  return edited(staffed.activities.findIndex((_, k) => k % 97 === 0 && Math.abs(moves(edited(k)) - 10) <= 5))
}
line('load of 10,000 activities and 50 resources, all of them moved', 15, () =>
  inTurns(staffed, laterProject(), loadsOf),
)
line('load of 10,000 activities, of which an edit moves some ten', 15, () =>
  inTurns(staffed, someMoved(), loadsOf),
)
line('cost of 10,000 activities after an edit, at completion and by day', 5, () =>
  inTurns(staffed, someMoved(), (dates) => costCurve(activityCosts(dates))),
)
line('variance of 10,000 activities against a baseline', 5, () => {
  const dates = schedule(plan)
  const { change } = freeze(
    dates,
    { name: '', note: '', by: '', ink: '', at: '2027-03-01' },
    null,
    null,
    Math.random,
  )
  const baseline = applyChange(plan, change).plan.baselines[0]!
  return () => varianceOf(dates, baseline, null)
})
line('levelling: one pass, 10,000 activities, 4 resources', 12, () =>
  levelPass(withResources(plan, 4), 'least-float'),
)
line(
  'levelling: best of, 1,000 activities, 4 resources',
  5000,
  () => {
    const small = withResources(generatePlan(1000), 4)
    return () => level(small, { rule: 'best', seed: 1, insideFloat: false })
  },
  3,
)
if ('levelling: quality'.includes(scope)) {
  let [gaps, proven] = [0, 0]
  for (let seed = 1; seed <= 100; seed++) {
    const made = level(withResources(generatePlan(30, seed), 4, seed), {
      rule: 'best',
      seed,
      insideFloat: false,
    })
    const [from, to] = [made.before.projectStart, made.after.projectFinish]
    gaps += (to - made.proven.finish) / (made.proven.finish - from)
    if (to === made.proven.finish) proven++
  }
  console.log(
    `levelling: quality: ${gaps.toFixed(1)} % above the earliest not proven impossible on average, ${proven} of 100 proven the earliest (plans of 30)`,
  )
}
