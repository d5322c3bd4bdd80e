import { readFileSync } from 'node:fs'
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs'
import { describe, expect, it } from 'vitest'
import { parseJson, readPlan, reportOf, reportPage, type Plan, type ReportPartName } from '@geodrome/core'
import { fontBytes, fontRuns, FONTS } from './fonts.ts'
import { printReport, webFontRules } from './index.ts'
import { unwrapWoff } from './unwrapWoff.ts'

const demo = (name: string): Plan =>
  readPlan(parseJson(readFileSync(new URL(`../../demo/${name}.geodrome.json`, import.meta.url), 'utf8'))).plan
const made = (plan: Plan, parts: readonly ReportPartName[], scenario: string | null = null) =>
  reportOf(plan, { parts, scenario, iterations: 200, seed: 3, at: 40_000_000 })

/** The pages of a PDF as an independent reader sees them: their texts, the words of a line in one. */
const pagesOf = async (pdf: Uint8Array): Promise<string[]> => {
  const document = await getDocument({ data: pdf.slice(), useSystemFonts: false, verbosity: 0 }).promise
  const pages: string[] = []
  for (let k = 1; k <= document.numPages; k++) {
    const { items } = await (await document.getPage(k)).getTextContent()
    pages.push(
      items
        .map((item) => ('str' in item ? item.str : ''))
        .join(' ')
        .replace(/\s+/g, ' '),
    )
  }
  return pages
}
/** A text without spaces: where a printed line is broken is not what is compared. */
const bare = (text: string): string => text.replace(/\s+/g, '')

describe('a report as PDF', () => {
  it('says in print, to another reader, everything that it says: sentences, facts, tables', async () => {
    const report = made(demo('kittiwake-may'), ['summary', 'milestones', 'variance', 'money'])
    const text = bare((await pagesOf(await printReport(report))).join(' '))
    const said = report.parts.flatMap(({ title, blocks }) => [
      title,
      ...blocks.flatMap((block) => {
        if (block.kind === 'answer' || block.kind === 'text' || block.kind === 'heading') return [block.text]
        if (block.kind === 'facts') return block.facts.flat()
        return block.kind === 'table' ? block.rows.flatMap(({ cells }) => cells) : []
      }),
    ])
    expect(said.length).toBeGreaterThan(150)
    expect(said.filter((one) => !text.includes(bare(one)))).toEqual([])
  })
  it('sets names of other alphabets in a font that has them, in tables and in drawings', async () => {
    const names = ['Заглушить печь → Łódź', '<b>Α & "Ω"</b>']
    const kiln = demo('kiln')
    const plan = {
      ...kiln,
      activities: kiln.activities.map((one, i) => ({ ...one, name: names[i] ?? one.name })),
    }
    const pages = await pagesOf(await printReport(made(plan, ['ground', 'activities'])))
    const text = bare(pages.join(' '))
    for (const name of names) expect(text.split(bare(name)).length - 1).toBe(2)
  })
  it('gives the drawing of the network pages of its own, and says on each which it is', async () => {
    const pages = await pagesOf(await printReport(made(demo('kittiwake'), ['summary', 'ground'])))
    expect(pages.length).toBeGreaterThan(2)
    expect(pages[0]).not.toContain('Blast hull to bare steel')
    expect(pages[1]).toContain('Blast hull to bare steel')
    pages.forEach((page, k) => expect(page).toContain(`${k + 1} of ${pages.length}`))
  })
  it('of an empty plan is a page that says so', async () => {
    const { plan } = readPlan({
      format: 'geodrome-plan',
      version: 1,
      project: { start: '2027-03-01', calendar: 'clock' },
    })
    const report = reportOf(plan, { iterations: 100, seed: 1, at: 40_000_000 })
    const text = (await pagesOf(await printReport(report))).join(' ')
    expect(text).toContain('There is no activity in this plan yet')
    expect(text).toContain('No baseline was frozen')
    expect(text).toContain('A plan without a name')
  })
})

it('a page of its own needs nothing from elsewhere', () => {
  const page = reportPage(made(demo('kiln'), ['summary', 'ground']), webFontRules())
  expect(page.match(/(?:src|href)=|url\((?!data:|#)|https?:\/\/(?!www\.w3\.org\/2000\/svg)/g)).toBeNull()
  expect(page.match(/url\(data:font\/woff2;base64,/g)).toHaveLength(3)
})

describe('fonts', () => {
  it('a text is cut where its letters need another font, and nowhere else', () => {
    expect(fontRuns('H30 → S10, Łódź').map(({ text, family }) => [text, family])).toEqual([
      ['H30 ', 'Instrument Sans'],
      ['→ ', 'DejaVu Sans'],
      ['S10, ', 'Instrument Sans'],
      ['Ł', 'Instrument Sans Ext'],
      ['ód', 'Instrument Sans'],
      ['ź', 'Instrument Sans Ext'],
    ])
    expect(fontRuns('').length).toBe(0)
  })
  it('what is wrapped in WOFF comes out as an sfnt, every table with the sum that its directory says', () => {
    for (const { normal } of Object.values(FONTS)) {
      const font = fontBytes(normal)
      expect(['\u0000\u0001\u0000\u0000', 'OTTO']).toContain(font.toString('latin1', 0, 4))
      const count = font.readUInt16BE(4)
      expect(count).toBeGreaterThan(8)
      for (let record = 12; record < 12 + 16 * count; record += 16) {
        const [sum, offset, length] = [4, 8, 12].map((field) => font.readUInt32BE(record + field)) as [
          number,
          number,
          number,
        ]
        const isHead = font.toString('latin1', record, record + 4) === 'head'
        let found = 0
        // The adjustment in "head" is left out of its sum (OpenType, "Calculating checksums").
        for (let at = 0; at < length; at += 4)
          if (!(isHead && at === 8)) found = (found + font.readUInt32BE(offset + at)) >>> 0
        expect(found).toBe(sum)
      }
    }
    expect(() => unwrapWoff(Buffer.from('%PDF-1.7'))).toThrow('not a WOFF file')
  })
})
