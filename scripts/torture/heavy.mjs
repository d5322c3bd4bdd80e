import { randomUUID } from 'node:crypto'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as wait } from 'node:timers/promises'
import { strToU8, zipSync } from 'fflate'
import { say, Stop } from '../say.mjs'
import { random, startApplication } from './application.mjs'
import { importPlan } from './edits.mjs'

/** What others may wait for an answer. */
const MOST_MS = 2000
/** What the server may take, with the processes that it began. */
const MOST_MB = 600
const LOOK_EVERY_MS = 20
const AT_ONCE = 3

const times = (count, make) => Array.from({ length: count }, (_, k) => make(k))
const plan = (rest) =>
  JSON.stringify({ format: 'geodrome-plan', version: 1, project: { start: '2027-03-01' }, ...rest })
const activity = (k) => ({ id: `a${k}`, duration: 480 })
const day = (k) => new Date(Date.UTC(2027, 0, 1 + (k % 16_000))).toISOString().slice(0, 10)

const workbook = (sheet) =>
  zipSync({
    '[Content_Types].xml': strToU8(
      '<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/></Types>',
    ),
    '_rels/.rels': strToU8(
      '<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="xl/workbook.xml"/></Relationships>',
    ),
    'xl/workbook.xml': strToU8(
      '<?xml version="1.0"?><workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="Work" sheetId="1" r:id="r1"/></sheets></workbook>',
    ),
    'xl/_rels/workbook.xml.rels': strToU8(
      '<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet1.xml"/></Relationships>',
    ),
    'xl/worksheets/sheet1.xml': strToU8(
      `<?xml version="1.0"?><worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main">${sheet}</worksheet>`,
    ),
  })
const rows = (count) =>
  `<sheetData>${times(count, (k) => `<row r="${k + 1}"><c r="A${k + 1}" t="inlineStr"><is><t>K${k}</t></is></c></row>`).join('')}</sheetData>`

/** What one request may ask of the server: [what, path, body]. */
const HEAVY = [
  [
    'sixty megabytes of nothing',
    '/plans',
    () => plan({ x: [] }).replace('[]', `[${'{},'.repeat(20_000_000)}{}]`),
  ],
  [
    'a link between two groups of four thousand',
    '/plans',
    () =>
      plan({
        groups: [{ id: 'g' }, { id: 'h' }],
        activities: times(8000, (k) => ({ ...activity(k), group: k % 2 ? 'g' : 'h' })),
        links: [{ from: 'g', to: 'h' }],
      }),
  ],
  [
    'twenty thousand nested groups',
    '/plans',
    () =>
      plan({
        groups: times(20_000, (k) => ({ id: `g${k}`, ...(k > 0 && { parent: `g${k - 1}` }) })),
        activities: [],
      }),
  ],
  [
    'five thousand nested calendars',
    '/plans',
    () =>
      plan({
        calendars: times(5000, (k) => ({
          id: `c${k}`,
          ...(k > 0 ? { parent: `c${k - 1}` } : { week: { mon: ['07:00-15:00'] } }),
        })),
        activities: [],
      }),
  ],
  [
    'fifty calendars of sixteen thousand named days',
    '/plans',
    () =>
      plan({
        calendars: times(50, (k) => ({
          id: `c${k}`,
          week: { mon: ['07:00-15:00'] },
          exceptions: times(16_000, (d) => ({ date: day(d), hours: [] })),
        })),
        activities: [],
      }),
  ],
  [
    'a plan of twenty thousand activities in a chain',
    '/plans',
    () =>
      plan({
        activities: times(20_000, activity),
        links: times(19_999, (k) => ({ from: `a${k}`, to: `a${k + 1}` })),
      }),
  ],
  [
    'a workbook merged as a whole',
    '/tables',
    () => workbook(`${rows(3)}<mergeCells count="1"><mergeCell ref="A1:XFD200000"/></mergeCells>`),
  ],
  [
    'a workbook with drop-downs on whole columns',
    '/tables',
    () =>
      workbook(
        `${rows(3)}<dataValidations count="5">${['A', 'B', 'C', 'D', 'E'].map((c) => `<dataValidation type="list" sqref="${c}1:${c}1048576"><formula1>"a,b"</formula1></dataValidation>`).join('')}</dataValidations>`,
      ),
  ],
  ['a workbook of a hundred thousand rows', '/tables', () => workbook(rows(100_000))],
  ['a workbook of 160 MB', '/tables', () => workbook(' '.repeat(160 * 1024 * 1024))],
  [
    'tags four thousand deep in a change',
    '/plans/:plan/changes',
    () =>
      `{"uid":"${randomUUID()}","client":"x","author":"x","base":1,"change":{"kind":"set","list":"activities","key":"a","set":{"tags":${'['.repeat(4000)}${']'.repeat(4000)}}}}`,
  ],
  [
    'a change of four thousand facts',
    '/plans/:plan/changes',
    ({ activities }) =>
      JSON.stringify({
        uid: 'four-thousand-facts',
        client: 'x',
        author: 'x',
        base: 1,
        change: {
          kind: 'all',
          changes: times(4000, (k) => ({
            kind: 'set',
            list: 'activities',
            key: activities[k % activities.length].id,
            set: { notes: randomUUID() },
          })),
        },
      }),
  ],
  [
    'the largest run that is taken',
    '/plans/:plan/runs',
    ({ activities }) =>
      JSON.stringify({
        kind: 'simulation',
        input: {
          iterations: Math.min(100_000, Math.floor(100_000_000 / activities.length)),
          seed: 1,
          sampling: 'lhs',
          risks: true,
          scenario: null,
        },
      }),
  ],
]

/** Megabytes of a process and of those that it began; of one that has ended, none. */
const memoryMb = (pid) => {
  try {
    const [, kb] = /VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))
    const begun = readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').split(' ').filter(Boolean)
    return begun.reduce((mb, child) => mb + memoryMb(child), Number(kb) / 1024)
  } catch {
    return 0
  }
}

/**
 * Whatever is heavy is asked of one server, some at once, while somebody works on a plan beside it and others listen without reading.
 * @throws Stop if the server stops, answers late, takes more memory than it may, or fails instead of refusing
 */
export const heavy = async (rounds, seed) => {
  const folder = mkdtempSync(join(tmpdir(), 'geodrome-heavy-'))
  const application = await startApplication(folder, {
    servers: 1,
    env: { GEODROME_MEMORY_MB: String(MOST_MB) },
  })
  const [address] = application.addresses()
  const pid = application.pid(0)
  const roll = random(seed)
  const id = await importPlan(address)
  const { plan: opened } = await (await fetch(`${address}/plans/${id}`)).json()
  const wrong = []
  const answers = {}

  const abort = new AbortController()
  for (let k = 0; k < 40; k++)
    fetch(`${address}/plans/${id}/events?since=1`, { signal: abort.signal }).catch(() => undefined)

  // Made before: making them keeps this program from hearing the answers.
  const bodies = new Map(HEAVY.map(([what, , body]) => [what, Buffer.from(body(opened))]))
  const queue = times(rounds, () => [...HEAVY].sort(() => roll() - 0.5)).flat()

  let isOver = false
  let memory = 0
  const looking = setInterval(() => (memory = Math.max(memory, memoryMb(pid))), LOOK_EVERY_MS)
  const bystander = async () => {
    let [slowest, asked, revision] = [0, 0, 1]
    while (!isOver) {
      const { id: key } = opened.activities[asked % opened.activities.length]
      const began = performance.now()
      const response = await fetch(`${address}/plans/${id}/changes`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({
          uid: randomUUID(),
          client: 'bystander',
          author: 'bystander',
          base: revision,
          change: { kind: 'set', list: 'activities', key, set: { owner: `${asked}` } },
        }),
      }).catch(() => null)
      const took = performance.now() - began
      if (took > slowest) slowest = took
      asked++
      if (response?.status === 200) revision = (await response.json()).revision
      else wrong.push(`a bystander got ${response?.status ?? 'no answer'}`)
      await wait(50)
    }
    return { slowest, asked }
  }
  const beside = bystander()

  const lane = async () => {
    for (let next = queue.pop(); next; next = queue.pop()) {
      const [what, path] = next
      const response = await fetch(`${address}${path.replace(':plan', id)}`, {
        method: 'POST',
        headers: { 'content-type': path === '/tables' ? 'application/octet-stream' : 'application/json' },
        body: bodies.get(what),
      }).catch(() => null)
      const status = response?.status ?? 0
      answers[status] = (answers[status] ?? 0) + 1
      // Too much at once is said with 503; everything else above 499 is a fault.
      if (status === 0 || (status >= 500 && status !== 503)) wrong.push(`${what}: ${status || 'no answer'}`)
      await response?.arrayBuffer()
    }
  }
  await Promise.all(times(AT_ONCE, lane))
  isOver = true
  clearInterval(looking)
  const { slowest, asked } = await beside
  abort.abort()
  if (application.pid(0) !== pid) wrong.push('the server stopped')
  await application.stop()
  rmSync(folder, { recursive: true, force: true })
  say(
    `${rounds * HEAVY.length} heavy requests, ${AT_ONCE} at once (${Object.entries(answers)
      .map(([status, count]) => `${status}: ${count}`)
      .join(
        ', ',
      )}); beside them ${asked} edits, the slowest answered in ${Math.round(slowest)} ms; at most ${Math.round(memory)} MB`,
  )
  if (slowest > MOST_MS) wrong.push(`an answer took ${Math.round(slowest)} ms`)
  if (memory > MOST_MB) wrong.push(`${Math.round(memory)} MB of memory`)
  if (wrong.length > 0) throw new Stop([...new Set(wrong)].join('\n'))
}
