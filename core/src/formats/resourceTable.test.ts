import { expect, it } from 'vitest'
import { applyChange, readPlan } from '../plan/index.ts'
import { cellsOf } from './index.ts'
import { readResourceTable } from './resourceTable.ts'

const { plan } = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01' },
  calendars: [{ id: 'day', name: 'Day shift', week: { mon: ['07:00-15:00'] } }],
  resources: [{ id: 'w', code: 'WELD', name: 'Welders', price: 50, available: [{ amount: 4 }] }],
})
let drawn = 0
const read = (text: string) => readResourceTable(plan, cellsOf(text), () => (drawn = (drawn + 0.0137) % 1))

it('reads other people’s heads in any order, changes who is known and adds the rest, as one change that can be taken back', () => {
  const table = read(
    [
      'Type,Resource name,Rate,Availability,Short,Shift,Phone',
      'Labour,Welders,"52 EUR/h","4, 6 from 10 May",weld,Day shift,12',
      'equipment,Crane,"€ 118 per h",1,CRAN,,13',
      'Materials,Hull steel,"2,100/t",,STEE,,',
      'Fee,Class visit,1.850 a call,,CLAS,,',
    ].join('\n'),
  )
  expect(table.unread).toEqual(['Phone'])
  expect(table.problems).toEqual([])
  expect(table.rows.map(({ row, known }) => [row, known?.id ?? null])).toEqual([
    [2, 'w'],
    [3, null],
    [4, null],
    [5, null],
  ])
  const { plan: after, inverse } = applyChange(plan, table.change)
  expect(after.resources).toMatchObject([
    {
      id: 'w',
      price: 52,
      per: 'hour',
      available: [
        { from: null, amount: 4 },
        { from: '2027-05-10', amount: 6 },
      ],
      calendar: 'day',
    },
    { code: 'CRAN', kind: 'plant', price: 118, per: 'hour' },
    { code: 'STEE', kind: 'material', price: 2100, per: 'quantity' },
    { code: 'CLAS', kind: 'fee', price: 1.85, per: 'call' },
  ])
  expect(applyChange(after, inverse).plan).toEqual(plan)
  // Read again, nothing is another.
  expect(readResourceTable(after, cellsOf('Short,Rate\nWELD,52'), () => 0.5).change).toEqual({
    kind: 'all',
    changes: [],
  })
})

it('reads names with prices without any heads', () => {
  const { rows } = read('Painters\t44\thour\t6\nFitters\t48/h')
  expect(rows.map(({ fields }) => fields)).toEqual([
    { name: 'Painters', price: 44, per: 'hour', available: [{ from: null, amount: 6 }] },
    { name: 'Fitters', price: 48, per: 'hour' },
  ])
})

it('leaves out whole what it does not understand, with the row and why', () => {
  const { rows, problems } = read(
    'Name,Kind,Price,Per,Available,Hours\nA,robots,1,hour,1,\nB,people,ten,hour,1,\nC,people,1,mile,1,\nD,people,1,hour,some,\nE,people,1,hour,1,Night\n,people,1,hour,1,\nF,people,-1,hour,1,\nG,people,1,hour,1,\ng,people,2,hour,1,',
  )
  expect(rows.map(({ fields }) => fields.name)).toEqual(['G'])
  expect(problems.map(({ row, why }) => [row, why.slice(0, 28)])).toEqual([
    [2, '“robots” is no kind; write p'],
    [3, '“ten” is no price; write for'],
    [4, '“mile” is not what a price i'],
    [5, '“some” is not understood; wr'],
    [6, 'there is no calendar “Night”'],
    [7, 'it has no code and no name'],
    [8, '“-1” is no price; write for '],
    [10, '“g” is there twice; the firs'],
  ])
})
