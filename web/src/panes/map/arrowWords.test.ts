import { expect, it } from 'vitest'
import { PART, readPlan, type Arrow } from '@geodrome/core'
import { useCalendars } from '../../composables/useCalendars.ts'
import type { ScheduleView } from '../../workers/scheduleProtocol.ts'
import { cellContext } from '../rows/cellContext.ts'
import { arrowUnits } from './arrowNetwork.ts'
import { arrowWords } from './arrowWords.ts'

const { plan } = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01', calendar: 'day' },
  calendars: [{ id: 'day', week: { mon: ['08:00-16:00'], tue: ['08:00-16:00'] } }],
  groups: [{ id: 'g', code: 'G1', name: 'Everything below the waterline, and more' }],
  activities: [
    { id: 'a', code: 'A10', name: 'Keel, laid on the blocks of dock two', duration: '2d' },
    { id: 'b', code: 'B, with a comma', name: '', duration: 0 },
    { id: 'm', code: 'M', name: 'Afloat', kind: 'milestone', edge: 'finish' },
    { id: 'x', code: 'X', name: 'In it', duration: '1d', group: 'g' },
    { id: 'y', code: 'Y', name: 'In it too', duration: '1d', group: 'g' },
  ],
  links: [
    { id: 'ab', from: 'a', to: 'b', type: 'SS', lag: '1d' },
    { id: 'bm', from: 'b', to: 'm', type: 'FS', lag: 0 },
  ],
})
const view = { onLongestPath: Uint8Array.of(1, 0, 0, 0, 1) } as never as ScheduleView
const context = cellContext(plan, view, useCalendars(() => plan).value!, false)
const wordsOn = (folded: readonly string[], ...arrows: Partial<Arrow>[]) => {
  const units = arrowUnits(plan, new Set(folded), null)
  return arrowWords(
    {
      arrows: arrows.map(
        (arrow) => ({ from: 0, to: 1, activity: null, link: null, kind: 'work', ...arrow }) as Arrow,
      ),
    },
    new Map(units.map((unit) => [unit.id, unit])),
    context,
  )
}

it('work says who it is, as much of its name as there is room for beside the code, and how long it takes', () => {
  expect(wordsOn([], { activity: 'a' }, { activity: 'b' }, { activity: 'm' })).toEqual([
    { code: 'A10', name: 'Keel, laid on the blo…', below: '2 d', strong: true },
    { code: 'B, with a comma', name: '', below: '0 d', strong: false },
    { code: 'M', name: 'Afloat', below: 'milestone', strong: false },
  ])
})
it('a folded group says how many it holds, and is strong if one of them is', () => {
  expect(wordsOn(['g'], { activity: 'g' })).toEqual([
    { code: 'G1', name: 'Everything below the w…', below: '2 activities', strong: true },
  ])
})
it('a link says its type and lag, part of an activity so, and what is there no more or nobody’s nothing', () => {
  const dummy: Partial<Arrow> = { kind: 'dummy' }
  expect(
    wordsOn(
      [],
      { ...dummy, link: 'ab' },
      { ...dummy, link: 'bm' },
      { ...dummy, link: `${PART}a` },
      { ...dummy, link: 'gone' },
      dummy,
      { activity: 'gone' },
    ).map(({ code, name, below }) => [code, name, below]),
  ).toEqual([
    ['SS', '', '1 d later'],
    ['FS', '', ''],
    ['', 'part of it', ''],
    ['', '', ''],
    ['', '', ''],
    ['', '', ''],
  ])
})
