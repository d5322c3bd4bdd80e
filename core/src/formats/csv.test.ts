import Papa from 'papaparse'
import { expect, it } from 'vitest'
import { readPlan } from '../plan/index.ts'
import { schedule } from '../schedule/index.ts'
import { scheduleCsv } from './csv.ts'
import { cellText, writeCsv } from './writeCsv.ts'
import { xmlText } from '../words/xmlText.ts'

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

const SEPARATORS = [',', ';', '\t', '|']
it('gives no formula under any separator, in half or full width, and keeps what is none', () => {
  const texts = [
    '=1+1',
    '+1',
    '-cmd',
    '@x',
    '＝1+1',
    '＋1',
    'a;=1+1',
    'a\t=1',
    'a\n=1',
    'a|＝1',
    '\r=1',
    ';-cmd',
  ]
  const text = writeCsv([['head', 'n'], ...texts.map((cell) => [cell, -5])])
  for (const delimiter of SEPARATORS)
    for (const row of Papa.parse<string[]>(text, { delimiter }).data)
      for (const cell of row) if (cell !== '-5') expect(cell, delimiter).not.toMatch(/^\s*["]?[=+@＝＋＠]|^-/)
  const plain = ['a=b', 'x + y', '-5', '-5.25', 'K10; after K20', 'Blast, then "wash"', '']
  expect(Papa.parse<string[]>(writeCsv(plain.map((cell) => [cell, 1]))).data.slice(0, plain.length)).toEqual(
    plain.map((cell) => [cell, '1']),
  )
})
it('gives no cell more letters than it holds', () => {
  expect(cellText('x'.repeat(32_767))).toHaveLength(32_767)
  expect(cellText('x'.repeat(40_000))).toHaveLength(32_767)
  expect(cellText('x'.repeat(40_000)).endsWith('…')).toBe(true)
})
it('gives XML only what it can hold', () => {
  expect(xmlText('a\u0000b\u001f\ud800c\udc00 <&>"\' \t\n 👷 ſ')).toBe(
    'abc &lt;&amp;&gt;&quot;&#39; \t\n 👷 ſ',
  )
})
