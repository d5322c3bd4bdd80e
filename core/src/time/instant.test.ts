import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { civilDate, dayNumber, END_DAY, FIRST_DAY, formatInstant, parseDate } from './instant.ts'

const MS_PER_DAY = 86_400_000
const EPOCH = Date.UTC(1950, 0, 1)

describe('days', () => {
  it('have the dates that the platform gives them, all of them and some outside', () => {
    for (let day = FIRST_DAY - 40_000; day < END_DAY + 40_000; day++) {
      const date = new Date(EPOCH + day * MS_PER_DAY)
      const [year, month, of] = [date.getUTCFullYear(), date.getUTCMonth() + 1, date.getUTCDate()]
      const civil = civilDate(day)
      if (
        civil.year !== year ||
        civil.month !== month ||
        civil.day !== of ||
        dayNumber(year, month, of) !== day
      )
        expect({ day, civil, number: dayNumber(year, month, of) }).toEqual({ day, year, month, of })
      if (civil.weekday !== (date.getUTCDay() + 6) % 7) expect(civil).toEqual(date.getUTCDay())
    }
  })
  it('beyond the end of a month go on into the next', () => {
    for (const [year, month, day] of [
      [2027, 2, 31],
      [2028, 2, 30],
      [2027, 12, 40],
      [2027, 3, 0],
    ] as const)
      expect(dayNumber(year, month, day)).toBe((Date.UTC(year, month - 1, day) - EPOCH) / MS_PER_DAY)
  })
})

/** What a text says, by an expression and by the platform's own dates. */
const slowly = (text: string): ReturnType<typeof parseDate> => {
  const match = /^(\d{4})-(\d\d)-(\d\d)(?:T(\d\d):(\d\d))?$/.exec(text)
  if (!match) return null
  const [year, month, day, hour, minute] = match.slice(1).map((part) => Number(part ?? 0)) as [
    number,
    number,
    number,
    number,
    number,
  ]
  const at = Date.UTC(year, month - 1, day)
  if (year < 1950 || year > 2150 || new Date(at).toISOString().slice(0, 10) !== match[0].slice(0, 10))
    return null
  if (minute > 59 || hour * 60 + minute > 1440) return null
  return { at: (at - EPOCH) / 60_000 + hour * 60 + minute, hasTime: match[4] !== undefined }
}

const two = (most: number): fc.Arbitrary<string> =>
  fc.nat(most).map((number) => String(number).padStart(2, '0'))

describe('a date', () => {
  it('is read as an expression reads it, and written as it was read', () => {
    const dates = fc
      .tuple(fc.integer({ min: 1940, max: 2160 }), two(14), two(33), fc.boolean(), two(26), two(62))
      .map(
        ([year, month, day, hasTime, hour, minute]) =>
          `${year}-${month}-${day}${hasTime ? `T${hour}:${minute}` : ''}`,
      )
    fc.assert(
      fc.property(dates, (text) => {
        const read = parseDate(text)
        expect(read).toEqual(slowly(text))
        if (read?.hasTime && !text.includes('T24')) expect(formatInstant(read.at)).toBe(text)
      }),
      { numRuns: 2000 },
    )
  })
  it('with one sign that does not belong there is none, at any place', () => {
    for (const text of ['2027-03-01', '2028-02-29T07:30'])
      for (let at = 0; at <= text.length; at++)
        for (const sign of ['', ' ', '-', ':', 'T', 't', '/', '.', 'x', '٣', '３', '00'])
          for (const rest of [text.slice(at), text.slice(at + 1)]) {
            const other = text.slice(0, at) + sign + rest
            expect([other, parseDate(other)]).toEqual([other, slowly(other)])
          }
    expect(parseDate('')).toBe(null)
    expect(parseDate('2028-02-29T24:00')!.at).toBe(parseDate('2028-03-01')!.at)
    expect(parseDate('2027-02-29')).toBe(null)
    expect(parseDate('2100-02-29')).toBe(null)
    expect(parseDate('2000-02-29')).not.toBe(null)
  })
})
