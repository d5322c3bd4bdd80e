import { describe, expect, test } from 'vitest'
import { figureOf } from './shownTable.ts'

describe('the words of a cell in a file', () => {
  test.each([
    ['1,275,296', 1275296],
    ['−20,504', -20504],
    ['-3', -3],
    ['+26,752', 26752],
    ['0', 0],
    ['0.25', 0.25],
    ['1,083.5', 1083.5],
  ])('%s is a figure', (words, figure) => expect(figureOf(words)).toBe(figure))

  test.each([
    '',
    '007',
    '1.2.3',
    '12,5',
    '1,2345',
    ',5',
    '12 d',
    '5 %',
    '2027-07-05',
    '1e5',
    '0x10',
    '- 3',
    'H30',
    '١٢',
    '=1+1',
    'Infinity',
  ])('%s stays words', (words) => expect(figureOf(words)).toBe(words))
})
