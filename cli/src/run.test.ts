import { execFile } from 'node:child_process'
import { readFile } from 'node:fs/promises'
import { fileURLToPath } from 'node:url'
import { Readable } from 'node:stream'
import { expect, it } from 'vitest'
import { CHECKS, readPlan, parseJson } from '@geodrome/core'
import { run as runRaw } from './run.ts'

const kiln = fileURLToPath(new URL('../../demo/kiln.geodrome.json', import.meta.url))
const none = Readable.from([])
/** A call that prints text. */
const run = async (...of: Parameters<typeof runRaw>) => {
  const result = await runRaw(...of)
  if (typeof result.stdout !== 'string') throw new Error('bytes instead of text')
  return { ...result, stdout: result.stdout }
}
const json = async (...args: string[]) => {
  const { stdout, stderr, exitCode } = await run(args, none)
  expect([stderr, exitCode]).toEqual(['', 0])
  return JSON.parse(stdout)
}

it('schedules the Kiln rebuild to the figures worked by hand in docs/kiln-by-hand.md', async () => {
  const report = await json('schedule', kiln)
  expect(report).toMatchObject({
    start: '2027-03-01T07:00',
    finish: '2027-03-18T16:00',
    criticalPath: [],
    longestPath: ['k1', 'k2', 'k3', 'k4', 'k8', 'k9'],
  })
  expect(report.activities.k7).toEqual({
    code: 'B30',
    start: '2027-03-09T07:00',
    finish: '2027-03-10T16:00',
    lateStart: '2027-03-22T07:00',
    lateFinish: '2027-03-23T16:00',
    totalFloat: 4320,
    freeFloat: 1440,
    startFloat: 4320,
    critical: false,
    onLongestPath: false,
    drivers: ['k6'],
  })
})

it('explains, reviews, simulates and converts', async () => {
  expect((await json('explain', kiln, '--activity', 'K50')).start).toMatchObject({ at: '2027-03-16T07:00' })
  expect(await json('review', kiln)).toMatchObject({ findings: [], counts: { 'open-end': 0 } })
  const simulation = await json('simulate', kiln, '--iterations', '500', '--seed', '3')
  expect(simulation).toMatchObject({ planned: '2027-03-18T16:00' })
  expect(simulation).toEqual(await json('simulate', kiln, '--seed', '3', '--iterations', '500'))
  const { stdout } = await run(['convert', kiln, '--to', 'json'], none)
  expect(readPlan(parseJson(stdout)).plan).toEqual(readPlan(parseJson(await readFile(kiln, 'utf8'))).plan)
})

it('compares a plan with another, and with its scenarios', async () => {
  const kittiwake = kiln.replace('kiln', 'kittiwake')
  const { plan } = readPlan(parseJson(await readFile(kittiwake, 'utf8')))
  const [scenario] = plan.scenarios
  const inScenario = await json('compare', kittiwake, '--scenario', scenario!.id)
  const planned = (await json('schedule', kittiwake)).finish
  expect(inScenario.finish.before).toBe(planned)
  expect(Math.sign(inScenario.finish.days)).toBe(
    Math.sign(Date.parse(inScenario.finish.after) - Date.parse(planned)),
  )
  expect(inScenario.changed.length).toBeGreaterThan(0)
  expect(inScenario.void).toEqual([])
  // Nothing differs from itself.
  expect(await json('compare', kiln, kiln)).toMatchObject({
    finish: { days: 0 },
    changed: [],
    moved: [],
    added: [],
    removed: [],
    float: { gained: [], lost: [] },
    longestPath: { joined: [], left: [] },
  })
  // K40 two days longer than worked by hand: the finish goes with it, and nothing else is said to differ.
  const longer = parseJson(await readFile(kiln, 'utf8')) as {
    activities: { code: string; duration: string }[]
  }
  const k40 = longer.activities.find(({ code }) => code === 'K40')!
  const was = k40.duration
  k40.duration = `${Number.parseFloat(was) + 2}d`
  const other = Readable.from([JSON.stringify(longer)])
  const { stdout, exitCode } = await run(['compare', kiln, '-'], other)
  const compared = JSON.parse(stdout)
  expect(exitCode).toBe(0)
  expect(compared.changed).toHaveLength(1)
  expect(compared.changed[0]).toMatchObject({ kind: 'durations', days: compared.finish.days })
  expect(compared.finish.days).toBe(2)
  const wrong = async (...args: string[]) => (await run(['compare', ...args], none)).stderr.split('\n')[0]
  expect(await wrong(kiln)).toContain('name a second plan file, or a scenario')
  expect(await wrong(kiln, kiln, '--scenario', 'x')).toContain('name a second plan file, or a scenario')
  expect(await wrong(kittiwake, '--scenario', 'gone')).toContain(`it has ${scenario!.id} (`)
  expect(await wrong('-', '-')).toContain('only one of two plans')
})

it('writes the network and its dates in open formats, the same ones each time', async () => {
  const written = async (to: string) => (await runRaw(['convert', kiln, '--to', to], none)).stdout
  expect(await written('ics')).toMatch(/^BEGIN:VCALENDAR\r\n[^]*SUMMARY:K50 Dry and heat up\r\n/)
  expect(await written('graphml')).toContain('<edge id="')
  expect(await written('dot')).toContain('digraph "Kiln rebuild" {')
  for (const to of ['ics', 'graphml', 'dot']) expect(await written(to)).toBe(await written(to))
  // A workbook is a zip file.
  expect([...((await written('xlsx')) as Uint8Array).slice(0, 2)]).toEqual([0x50, 0x4b])
  const { exitCode, stderr } = await run(['convert', kiln, '--to', 'toString'], none)
  expect([exitCode, stderr.split('\n')[0]]).toEqual([
    2,
    'geodrome: --to takes json, xlsx, csv, ics, graphml or dot',
  ])
})

it('reads standard input, and writes for people with --text', async () => {
  const { stdout } = await run(['schedule', '-', '--text'], Readable.from([await readFile(kiln)]))
  expect(stdout).toMatch(/^Finish Thu 18 Mar 2027 16:00/)
})

it('exits 1 for a plan with errors, with one line for each and nothing on standard output', async () => {
  const bad = {
    format: 'geodrome-plan',
    version: 1,
    project: { start: 'soon' },
    activities: [{ id: 'a', duration: 'x' }],
  }
  const { stdout, stderr, exitCode } = await run(['schedule', '-'], Readable.from([JSON.stringify(bad)]))
  expect([stdout, exitCode]).toEqual(['', 1])
  expect(
    stderr
      .trim()
      .split('\n')
      .map((line) => line.split(':')[0]),
  ).toEqual(['/project/start', '/activities/0/duration'])
})

it('exits 1 where a calendar runs out of work, pointing at the activity', async () => {
  const plan = {
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01T08:00', calendar: 'day' },
    calendars: [{ id: 'day', week: { mon: ['08:00-16:00'] } }],
    activities: [
      { id: 'b', duration: '1d' },
      { id: 'a', code: 'X1', duration: '60000d' },
    ],
  }
  const { stdout, stderr, exitCode } = await run(['schedule', '-'], Readable.from([JSON.stringify(plan)]))
  expect([stdout, exitCode]).toEqual(['', 1])
  expect(stderr).toMatch(
    /^\/activities\/1: X1: counting on calendar "day" leads outside 1950–2150; shorten the duration/,
  )
})

it.each([
  [[]],
  [['dance', kiln]],
  [['schedule']],
  [['schedule', '/no/such/file']],
  [['simulate', kiln, '--iterations', '0']],
  [['explain', kiln]],
  [['explain', kiln, '--activity', 'none']],
  [['schedule', kiln, '--wrong']],
  [['review', kiln, '--preset', 'none']],
])('exits 2 for the wrong usage %j', async (args) => {
  const { stdout, stderr, exitCode } = await run(args, none)
  expect([stdout, exitCode]).toEqual(['', 2])
  expect(stderr).toMatch(/usage: geodrome/)
})

it('exits 3 where review finds what it was told to fail on', async () => {
  const kittiwake = kiln.replace('kiln', 'kittiwake')
  expect((await run(['review', kittiwake, '--fail-on', 'moves-answer'], none)).exitCode).toBe(3)
  expect((await run(['review', kiln, '--fail-on', 'any'], none)).exitCode).toBe(0)
})

it('reviews with the 14-point preset, as a text of one line each, and refuses limits that no check can have', async () => {
  const kittiwake = kiln.replace('kiln', 'kittiwake-may')
  const read = async (...args: string[]) =>
    JSON.parse((await run(['review', kittiwake, ...args], none)).stdout)
  const { points, findings, baselineExecutionIndex } = await read('--preset', '14-point')
  expect(points.map((p: { number: number }) => p.number)).toEqual(Array.from({ length: 14 }, (_, k) => k + 1))
  expect(baselineExecutionIndex).toBeGreaterThan(0)
  const { stdout } = await run(['review', kittiwake, '--text'], none)
  expect(stdout.trim().split('\n')).toHaveLength(1 + (await read()).findings.length)
  expect(stdout.startsWith(`KITE-MAY: finish Mon 19 Jul 2027 15:45; ${CHECKS.length} checks, `)).toBe(true)
  expect(findings[0]).toMatchObject({
    check: 'negative-float',
    topic: 'Float',
    severity: 'moves-answer',
    links: [],
    threshold: 0,
    effect: { kind: 'short' },
  })
  const wrong = {
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01', review: { preset: 'own', limits: { 'merge-point': 0, nothing: 3 } } },
  }
  const { stderr, exitCode } = await run(['review', '-'], Readable.from([JSON.stringify(wrong)]))
  expect([exitCode, stderr.trim().split('\n')]).toEqual([
    1,
    [
      '/project/review/limits/merge-point: give a figure from 2 to 1000',
      '/project/review/limits/nothing: there is no such limit; leave it out',
    ],
  ])
})

it('runs as the installed command', async () => {
  const bin = fileURLToPath(new URL('../bin/geodrome.mjs', import.meta.url))
  const stdout = await new Promise<string>((resolve, reject) =>
    execFile(process.execPath, [bin, 'schedule', kiln], (error, out) =>
      error ? reject(new Error('the command failed', { cause: error })) : resolve(out),
    ),
  )
  expect(JSON.parse(stdout)).toMatchObject({ finish: '2027-03-18T16:00' })
})

it('costs, loads and levels a plan, and refuses what it cannot do', async () => {
  const plan = {
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01T07:00', calendar: 'clock' },
    activities: [
      { id: 'a', code: 'A', name: 'Lift out', duration: '2h' },
      { id: 'b', code: 'B', name: 'Lift in', duration: '1h' },
    ],
    resources: [{ id: 'r', code: 'CRAN', kind: 'plant', price: 100, available: [{ amount: 1 }] }],
    assignments: [
      { id: 'x', activity: 'a', resource: 'r' },
      { id: 'y', activity: 'b', resource: 'r' },
    ],
  }
  const of = (...args: string[]) => run(args, Readable.from([JSON.stringify(plan)]))
  const read = async (...args: string[]) => JSON.parse((await of(...args)).stdout)
  expect(await read('cost', '-', '--by', 'week')).toMatchObject({
    total: 300,
    activities: { a: { planned: 200, atCompletion: 200, spent: 0 } },
    curve: [{ date: '2027-03-01', early: 300, late: 300 }],
  })
  expect((await read('load', '-')).resources.r).toEqual({
    peak: 2,
    overloads: [
      { from: '2027-03-01T07:00', to: '2027-03-01T08:00', load: 2, available: 1, activities: ['a', 'b'] },
    ],
    outsideHours: [],
  })
  expect(await read('level', '-')).toMatchObject({
    finish: '2027-03-01T10:00',
    bound: '2027-03-01T10:00',
    unresolved: [],
  })
  expect((await of('level', '-', '--text')).stdout).toContain('proven the earliest')
  expect((await of('cost', '-', '--text')).stdout).toContain('Planned 300.00 EUR')
  expect((await of('load', '-', '--text')).stdout).toContain('2 of 1')
  expect((await of('level', '-', '--rule', 'luck')).stderr).toContain('--rule takes least-float')
  expect((await of('cost', '-', '--by', 'year')).stderr).toContain('--by takes day, week or month')
})

it('forecasts by PERT: the date asked, the confidence, the paths', async () => {
  const report = await json('pert', kiln, '--by', '2027-03-19', '--confidence', '0.9')
  expect(Object.keys(report)).toEqual(['mean', 'sd', 'finish', 'probability', 'dateAtConfidence', 'paths'])
  expect(report.probability).toBeGreaterThan(0)
  expect(report.paths[0]).toMatchObject({ mean: report.mean, sd: report.sd, probability: report.probability })
  expect((await json('pert', kiln, '--to', 'K20')).mean).toBeLessThan(report.mean)
  for (const wrong of [
    ['--by', 'soon'],
    ['--confidence', '1'],
    ['--confidence', ''],
    ['--to', 'Z99'],
  ])
    expect((await run(['pert', kiln, ...wrong], none)).exitCode).toBe(2)
})

it('simulates until it is settled, owes days to what is drawn, and replays an iteration', async () => {
  const kite = fileURLToPath(new URL('../../demo/kittiwake.geodrome.json', import.meta.url))
  const report = await json(
    'simulate',
    kite,
    '--iterations',
    '200',
    '--owed',
    '80',
    '--replay',
    '7',
    '--joint',
    '50',
  )
  expect(report.owed.length).toBe(20)
  expect(report.risks.k1.happened).toBeCloseTo(0.38, 2)
  expect(report.cost.percentiles['80']).toBeGreaterThan(report.cost.planned)
  expect(report.joint.every(({ probability }: { probability: number }) => probability >= 0.5)).toBe(true)
  const { replay } = report
  expect(replay.activities.a067.finish).toBe(replay.finish)
  const settled = await json('simulate', kiln, '--until', '5', '--percentile', '50')
  expect(settled.settled.iterations).toBe(5000)
  expect(settled.settled.halfWidth).toBeLessThanOrEqual(5)
  for (const wrong of [
    ['--replay', '0'],
    ['--until', '1', '--iterations', '50'],
    ['--owed', '101'],
    ['--seed', 'lucky'],
    ['--iterations', '0'],
  ])
    expect((await run(['simulate', kiln, ...wrong], none)).exitCode).toBe(2)
})

it('crashes to a date, a length or a budget, by the curve, and says why not', async () => {
  const file = (crash: object) =>
    Readable.from([
      JSON.stringify({
        format: 'geodrome-plan',
        version: 1,
        project: { start: '2027-03-01', calendar: 'clock' },
        activities: [{ id: 'a', code: 'A10', duration: 10 * 1440, crash }],
      }),
    ])
  const data = { duration: 8 * 1440, normalCost: 1000, cost: 1500 }
  const asked = async (...args: string[]) => {
    const { stdout, stderr, exitCode } = await run(['crash', '-', ...args], file(data))
    expect([stderr, exitCode]).toEqual(['', 0])
    return JSON.parse(stdout)
  }
  expect(await asked('--deadline', '9d')).toMatchObject({
    feasible: true,
    duration: 9,
    crashCost: 250,
    crashed: { a: 1 },
  })
  expect(await asked('--deadline', '2027-03-09')).toMatchObject({
    finish: '2027-03-10T00:00',
    crashCost: 250,
  })
  expect(await asked('--budget', '0')).toMatchObject({ crashCost: 0, duration: 10 })
  expect(await asked('--deadline', '7d')).toMatchObject({ feasible: false, shortest: 8, blocking: ['a'] })
  expect((await asked('--curve', '--whole', 'd')).curve).toHaveLength(3)
  for (const wrong of [
    ['--deadline', 'soon'],
    ['--budget', '-5'],
    ['--budget', '5', '--deadline', '20d'],
    ['--whole', '0'],
    ['--to', 'B10'],
  ])
    expect((await run(['crash', '-', ...wrong], file(data))).exitCode).toBe(2)
  const { stderr, exitCode } = await run(['crash', '-'], file({ ...data, cost: 1 }))
  expect([stderr.includes('/activities/0/crash/cost: A10'), exitCode]).toEqual([true, 1])
})

it('finds the critical chain of the demo: hand-overs, buffers before the tide, the promise behind the chain', async () => {
  const kite = fileURLToPath(new URL('../../demo/kittiwake.geodrome.json', import.meta.url))
  const report = await json('chain', kite, '--sizing', 'root-squares')
  const project = report.buffers.find(({ kind }: { kind: string }) => kind === 'project')
  expect(project.finish).toBe(report.promised)
  expect(report.chain).toContain('a059')
  expect(report.handovers.length).toBeGreaterThan(5)
  const feeds = report.buffers.filter(({ kind }: { kind: string }) => kind === 'feeding')
  expect(feeds.some(({ before }: { before: string[] }) => before.includes('a059'))).toBe(true)
  const half = await json('chain', kite, '--cut', '0.3')
  expect(half.promised).not.toBe(report.promised)
  for (const wrong of [
    ['--sizing', 'guess'],
    ['--cut', '1'],
    ['--cut', 'half'],
  ])
    expect((await run(['chain', kite, ...wrong], none)).exitCode).toBe(2)
})

it('reports as a page and as PDF, by parts and scenario; wrong parts and forms are refused by name', async () => {
  const page = await run(['report', kiln, '--to', 'html', '--parts', 'summary, milestones'], none)
  expect([page.stderr, page.exitCode]).toEqual(['', 0])
  expect(page.stdout.match(/data-part="\w+"/g)).toEqual(['data-part="summary"', 'data-part="milestones"'])
  expect(page.stdout).toContain('Planned to finish on Thu 18 Mar 16:00')
  const { stdout: pdf } = await runRaw(['report', kiln, '--to', 'pdf', '--iterations', '200'], none)
  expect(pdf).toBeInstanceOf(Uint8Array)
  expect(Buffer.from(pdf as Uint8Array).toString('latin1', 0, 5)).toBe('%PDF-')
  for (const [args, why] of [
    [[], '--to takes pdf or html'],
    [['--to', 'docx'], '--to takes pdf or html'],
    [['--to', 'html', '--parts', 'summary,cover'], 'not cover'],
    [['--to', 'html', '--parts', ' , '], '--parts takes summary'],
    [['--to', 'html', '--scenario', 'x'], 'the plan has no scenario "x"'],
    [['--to', 'html', '--iterations', '0'], '--iterations takes a whole number'],
  ] as const) {
    const refused = await run(['report', kiln, ...args], none)
    expect([refused.exitCode, refused.stdout]).toEqual([2, ''])
    expect(refused.stderr).toContain(why)
  }
})
