import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { findByCodeOrName, linkPhrase, readLinks } from './index.ts'

const day = { dayMinutes: 480, weekMinutes: 2400 }
const activities = [
  { code: 'A20', name: 'Discharge fuel and ballast' },
  { code: 'A30', name: 'Prepare keel blocks' },
  { code: 'B10', name: 'Lay deck, main and upper' },
  { code: '7', name: 'Twin' },
  { code: '8', name: 'twin' },
  { code: 'K10FF', name: 'With the start of the rest' },
]
const find = findByCodeOrName(activities)
const read = (text: string): string => {
  const found = readLinks(text, find)
  if (!found.ok) return found.why
  return found.links
    .map(({ to, type, lag }) => {
      const minutes = lag(day)
      return `${to.code} ${type} ${minutes.ok ? minutes.minutes : minutes.why}`
    })
    .join('; ')
}

describe('links as anybody types them', () => {
  it.each([
    ['A20', 'A20 FS 0'],
    ['after a20', 'A20 FS 0'],
    ['after A20 and A30', 'A20 FS 0; A30 FS 0'],
    ['after A20, A30', 'A20 FS 0; A30 FS 0'],
    ['A20 & A30; B10', 'A20 FS 0; A30 FS 0; B10 FS 0'],
    ['after A20, 2d later', 'A20 FS 960'],
    ['after A20 2 d later and A30', 'A20 FS 960; A30 FS 0'],
    ['with the start of A20 and A30, 6h later', 'A20 SS 0; A30 SS 360'],
    ['starts with A20; ends with A30, 1d earlier', 'A20 SS 0; A30 FF -480'],
    ['ends with the start of A20', 'A20 SF 0'],
    ['A20 FS 2d', 'A20 FS 960'],
    ['A20FS+2d', 'A20 FS 960'],
    ['A20 (SS) -1 d, A30FF', 'A20 SS -480; A30 FF 0'],
    ['A20+2d', 'A20 FS 960'],
    ['7SS+1d', '7 SS 480'],
    ['after Prepare keel blocks', 'A30 FS 0'],
    ['after Discharge fuel and ballast and A30', 'A20 FS 0; A30 FS 0'],
    ['lay deck, main and upper, 1d later', 'B10 FS 480'],
    ['Prepare keel blocks SS+2d', 'A30 SS 960'],
    // A code that looks like a code with a type.
    ['K10FF', 'K10FF FS 0'],
    ['K10FF SS 1d', 'K10FF SS 480'],
    ['With the start of the rest', 'K10FF FS 0'],
    ['', ''],
    [' , ; ', ''],
  ])('%s', (text, means) => expect(read(text)).toBe(means))

  it.each([
    ['after Z99', 'there is no activity “Z99”'],
    ['A20, Z99 FF 2d', 'there is no activity “Z99”'],
    ['twin', 'several activities are called “twin”; write the code'],
    ['A20, , and', 'there is no activity “and”'],
  ])('%s names what it cannot read', (text, why) => expect(read(text)).toBe(why))

  it('a lag that is no duration says so', () => {
    expect(read('A20 FS 2 potatoes')).toContain('potatoes')
  })
  it('reads every link as it is written by the program itself', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...(['FS', 'SS', 'FF', 'SF'] as const)),
        fc.integer({ min: -9999, max: 9999 }),
        fc.constantFrom('A20', 'A30', 'B10', '7'),
        (type, lag, code) => {
          expect(read(linkPhrase({ type, lag }, code, day))).toBe(`${code} ${type} ${lag}`)
          expect(read(`${linkPhrase({ type, lag }, code, day)}; A30`)).toMatch(
            new RegExp(`^${code} ${type} ${lag}; A30`),
          )
        },
      ),
    )
  })
})
