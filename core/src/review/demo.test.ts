import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { parseJson, readPlan } from '../plan/index.ts'
import { schedule } from '../schedule/index.ts'
import { withYearsOf } from '../words/index.ts'
import { CHECKS, review } from './index.ts'

const at = (path: string): string => readFileSync(new URL(`../../../${path}`, import.meta.url), 'utf8')
const found = (file: string): string[] => {
  const { plan } = readPlan(parseJson(at(file)))
  return review(plan, schedule(plan)).findings.map((f) => `${f.check} | ${f.message}`)
}
/** Rows of the tables in docs/demo-faults.md, by the plan file named above them. */
const listed = new Map(
  at('docs/demo-faults.md')
    .split('\n## ')
    .slice(1)
    .map((part): [string, string[]] => {
      const rows = [...part.matchAll(/^\| ([a-z][a-z-]*) +\| (.+?) +\|$/gm)].map(
        ([, check, message]) => `${check} | ${message}`,
      )
      return [/`(demo\/.+?)`/.exec(part)![1]!, rows.filter((row) => row !== 'check | finding')]
    }),
)

describe('the demo’s deliberate faults', () => {
  for (const [file, rows] of listed)
    it(`of ${file} are found, all and only they`, () => {
      expect(found(file).sort()).toEqual([...rows].sort())
    })
  it('have every kind that Review knows', () => {
    expect([...new Set([...listed.values()].flat().map((row) => row.split(' | ')[0]!))].sort()).toEqual(
      CHECKS.map((c) => c.id).sort(),
    )
  })
  it('are known by the same fingerprints whether dates are said with their year or without', () => {
    const { plan } = readPlan(parseJson(at('demo/kittiwake-may.geodrome.json')))
    const fingerprints = () => review(plan, schedule(plan)).findings.map((f) => f.fingerprint)
    const messages = () => review(plan, schedule(plan)).findings.map((f) => f.message)
    expect(withYearsOf(0, 1e9, fingerprints)).toEqual(fingerprints())
    expect(withYearsOf(0, 1e9, messages)).not.toEqual(messages())
  })
  it('are none in the kiln', () => {
    expect(found('demo/kiln.geodrome.json')).toEqual([])
  })
})
