import { expect, it } from 'vitest'
import { instantOf } from '../time/index.ts'
import { readPlan } from '../plan/index.ts'
import { schedule } from '../schedule/index.ts'
import { readReturned, updateSheets } from './updateSheets.ts'

const week = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, ['07:00-15:00']]))
const { plan } = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01T07:00', calendar: 'day', statusDate: '2027-03-08T07:00' },
  calendars: [{ id: 'day', name: 'Day', week }],
  activities: [
    {
      id: 'w',
      code: 'W',
      name: 'Weld',
      duration: '10d',
      owner: 'Weld/Co: [A]',
      progress: { actualStart: '2027-03-04T07:00', percent: 50 },
    },
    { id: 'a', code: 'A', name: '=cut', duration: '2d' },
    {
      id: 'z',
      code: 'Z',
      duration: '1d',
      constraints: [{ edge: 'start', rule: 'not-before', date: '2027-04-12' }],
    },
  ],
})

it('makes a sheet for each owner, named as a workbook allows, with what is asked and what is known', () => {
  const sheets = updateSheets(schedule(plan), instantOf('2027-03-15T07:00', 'start'))
  expect(sheets.map(({ name }) => name)).toEqual(['No owner', 'Weld Co   A'])
  expect(sheets[0]!.rows).toEqual([['A', '=cut', '2027-03-08 07:00', '2027-03-09 15:00', '', '', '', '', '']])
  expect(sheets[1]!.rows).toEqual([
    ['W', 'Weld', '2027-03-04 07:00', '2027-03-12 15:00', '2027-03-04 07:00', '', '50 %', '', ''],
  ])
})

it('reads what comes back with columns in any order and other people’s heads, and says which sheet says nothing', () => {
  const { lines, unread } = readReturned([
    {
      name: 'Welders',
      rows: [
        ['Update of', '15 March'],
        ['Remaining', 'Code', 'Actual start', 'Done on', 'Remark'],
        ['4', ' W ', '', '', 'late plates'],
        ['', '', '', '', ''],
        ['', '', '12 mar', '', 'which one?'],
      ],
    },
    { name: 'Notes', rows: [['Please return by Monday']] },
    {
      name: 'Codes',
      rows: [
        ['code', 'remark'],
        ['A', 'ok'],
      ],
    },
    { name: 'Empty', rows: [] },
  ])
  expect(lines).toEqual([
    {
      sheet: 'Welders',
      row: 3,
      code: 'W',
      plannedFinish: '',
      cells: { started: '', finished: '', left: '4', promised: '' },
    },
    {
      sheet: 'Welders',
      row: 5,
      code: '',
      plannedFinish: '',
      cells: { started: '12 mar', finished: '', left: '', promised: '' },
    },
  ])
  expect(unread.map(({ sheet, why }) => `${sheet}: ${why.slice(0, 31)}`)).toEqual([
    'Notes: no column is headed “code”: not',
    'Codes: no column is headed “started”, ',
  ])
})
