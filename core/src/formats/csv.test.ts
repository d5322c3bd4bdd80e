import Papa from 'papaparse'
import { expect, it } from 'vitest'
import { readPlan } from '../plan/index.ts'
import { schedule } from '../schedule/index.ts'
import { scheduleCsv } from './csv.ts'

it('writes a row for each activity, quoted where needed, with formulas as text and numbers as numbers', () => {
  const { plan } = readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01T07:00', requiredFinish: '2027-03-01T08:00', calendar: 'clock' },
    activities: [
      { id: 'a', code: '=1+1', name: 'Blast, then "wash"', duration: '2h' },
      { id: 'b', name: '-cmd', duration: '1h' },
    ],
    links: [{ from: 'a', to: 'b', type: 'SS', lag: '30m' }],
  })
  const { data } = Papa.parse<Record<string, string>>(scheduleCsv(schedule(plan)), {
    header: true,
    skipEmptyLines: true,
  })
  expect(data[0]).toMatchObject({
    id: 'a',
    code: "'=1+1",
    name: 'Blast, then "wash"',
    start: '2027-03-01T07:00',
    finish: '2027-03-01T09:00',
    totalFloat: '-60',
  })
  expect(data[1]).toMatchObject({ name: "'-cmd", waitsFor: 'with the start of =1+1, 30 min later' })
})
