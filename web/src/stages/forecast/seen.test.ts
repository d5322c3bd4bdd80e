import { expect, it } from 'vitest'
import { type Distribution, type Plan, amountScale, DATE_SCALE } from '@geodrome/core'
import { isMeanInGap, seenIn } from './seen.ts'

const plan = {
  risks: [{ id: 'k', code: 'R3', name: 'Wasted plating' }],
  activities: [{ id: 'u', code: 'U50', name: 'Undock' }],
} as unknown as Plan
const found = (more: object): Distribution =>
  ({ mean: '2027-06-24T12:00', meanShare: 0.5, twoPeaks: null, ...more }) as never
const peaks = (more: object) => ({
  twoPeaks: {
    at: ['2027-06-10T12:00', '2027-07-08T12:00'],
    below: 0.62,
    because: null,
    waits: [],
    ...more,
  },
})

it('says nothing of an even distribution', () => {
  expect(seenIn(found({}), DATE_SCALE, plan)).toEqual([])
})
it('says which end stretches further, in the words of what is measured', () => {
  expect(seenIn(found({ meanShare: 0.58 }), DATE_SCALE, plan)).toEqual([
    'The mean, Thu 24 Jun, is at 58 in 100: late ones stretch further than early ones.',
  ])
  const euros = amountScale((amount) => `${amount} EUR`)
  expect(seenIn(found({ mean: 900, meanShare: 0.4 }), euros, plan)).toEqual([
    'The mean, 900 EUR, is at 40 in 100: low ones stretch further than high ones.',
  ])
})
it('says where they gather and what parts them: a risk, a turn of a calendar, or nothing that is known', () => {
  const begins = 'They gather in two places, around Thu 10 Jun (62 in 100) and around Thu 8 Jul'
  expect(seenIn(found(peaks({})), DATE_SCALE, plan)).toEqual([`${begins}.`])
  expect(
    seenIn(found(peaks({ because: { risk: 'k', below: 0.04, above: 0.97 } })), DATE_SCALE, plan),
  ).toEqual([
    `${begins}: R3 Wasted plating happened in 97 of 100 of the later and in 4 of 100 of the earlier.`,
  ])
  expect(seenIn(found(peaks({ waits: [{ activity: 'u', days: 15.6 }] })), DATE_SCALE, plan)).toEqual([
    `${begins}: in the later U50 Undock stands still 16 d longer, for want of time on its calendar.`,
  ])
  expect(seenIn(found(peaks({ waits: [{ activity: 'removed', days: 9 }] })), DATE_SCALE, plan)).toEqual([
    `${begins}.`,
  ])
})
it('a mean between two peaks is no date to expect where hardly anything finishes near it', () => {
  const bars = (near: number) => ({
    bars: [
      { from: '2027-06-10T00:00', count: 600 },
      { from: '2027-06-26T00:00', count: near },
      { from: '2027-07-08T00:00', count: 400 - near },
    ],
  })
  expect(isMeanInGap(found({ ...peaks({}), ...bars(19) }))).toBe(true)
  expect(isMeanInGap(found({ ...peaks({}), ...bars(20) }))).toBe(false)
  // Beside the first peak it is one of the dates on which most finish.
  expect(isMeanInGap(found({ ...peaks({}), ...bars(0), mean: '2027-06-11T15:00' }))).toBe(false)
  expect(isMeanInGap(found(bars(0)))).toBe(false)
})
