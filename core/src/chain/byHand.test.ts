import { readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import { readPlan, type Plan } from '../plan/index.ts'
import { agreement, chainReport, chainSettings, currentChain } from './index.ts'

/** What docs/chain-by-hand.md works out on paper. */
const file = JSON.parse(
  readFileSync(new URL('../../../docs/worked/blower.geodrome.json', import.meta.url), 'utf8'),
) as { project: object; activities: { id: string }[]; chain: object }
const planOf = (more: object = {}): Plan => readPlan({ ...file, ...more }).plan

it('the chain of the blower, its buffers and its gap are those worked by hand', () => {
  const report = chainReport(planOf())
  expect(report.chain).toEqual(['a', 'd', 'e'])
  expect(report.handovers).toEqual([{ from: 'a', to: 'd', resource: 'fitters' }])
  expect(report.buffers.map(({ id, size, start, finish }) => [id, size, start, finish])).toEqual([
    ['project', 5.5, '2027-03-16T11:00', '2027-03-23T16:00'],
    ['feeding:c:d', 1.5, '2027-03-04T07:00', '2027-03-05T11:00'],
    ['feeding:b:e', 1.5, '2027-03-10T07:00', '2027-03-11T11:00'],
  ])
  expect(report.gaps).toEqual([{ before: 'd', length: 0.5, cause: 'feeding:c:d' }])
  expect([report.finish, report.promised]).toEqual(['2027-03-16T11:00', '2027-03-23T16:00'])
  expect(Object.values(report.activities).map(({ start, finish }) => [start, finish])).toEqual([
    ['2027-03-01T07:00', '2027-03-04T16:00'],
    ['2027-03-05T07:00', '2027-03-09T16:00'],
    ['2027-03-01T07:00', '2027-03-03T16:00'],
    ['2027-03-05T11:00', '2027-03-11T11:00'],
    ['2027-03-11T11:00', '2027-03-16T11:00'],
  ])
})

it('by squares the project buffer is that worked by hand, and the gap longer', () => {
  const report = chainReport(planOf({ chain: { ...file.chain, sizing: 'root-squares' } }))
  expect(report.buffers.map(({ size }) => size)).toEqual([expect.closeTo(Math.sqrt(41), 2), 3, 3])
  expect(report.gaps).toEqual([{ before: 'd', length: 2, cause: 'feeding:c:d' }])
})

it('what a week has used of the buffers is what is worked by hand', () => {
  const plan = planOf()
  const agreed = agreement(plan, chainSettings(plan), '2027-03-01')
  const progress: Readonly<Record<string, object>> = {
    a: { actualStart: '2027-03-01T07:00', actualFinish: '2027-03-05T16:00' },
    c: { actualStart: '2027-03-01T07:00', actualFinish: '2027-03-03T16:00' },
  }
  const later = planOf({
    project: { ...file.project, statusDate: '2027-03-08T07:00' },
    activities: file.activities.map((one) => ({ ...one, progress: progress[one.id] ?? {} })),
    chain: { ...file.chain, agreed },
  })
  const { buffers } = currentChain(later, chainSettings(later), agreed)
  expect(
    buffers.map(({ id, used, consumption, progress: done, says }) => [
      id,
      used / 480,
      Math.round(consumption * 1000) / 1000,
      Math.round(done * 1000) / 1000,
      says,
    ]),
  ).toEqual([
    ['project', 0.5, 0.091, 0.364, 'leave'],
    ['feeding:c:d', 0, 0, 1, 'leave'],
    ['feeding:b:e', 1, 0.667, 0, 'act'],
  ])
})
