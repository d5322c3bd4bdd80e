import ExcelJS from 'exceljs'
import fc from 'fast-check'
import { expect, it } from 'vitest'
import { BadRequestError } from '../errors.ts'
import { readWorkbook } from './readWorkbook.ts'

const RUNS = Number(process.env.GEODROME_MUTATIONS ?? 150)

it(
  'a workbook with bytes that were changed anywhere is read or refused, and nothing else',
  async () => {
    const workbook = new ExcelJS.Workbook()
    const sheet = workbook.addWorksheet('Work')
    for (let k = 0; k < 4; k++) sheet.addRow([`K${k}`, 'Shut down', k])
    const good = new Uint8Array(await workbook.xlsx.writeBuffer())
    let read = 0
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.nat(good.length - 1), fc.nat(255)), { minLength: 1, maxLength: 6 }),
        fc.integer({ min: 0, max: 200 }),
        async (changes, cut) => {
          const bytes = good.slice(0, good.length - cut)
          for (const [at, value] of changes) bytes[at % bytes.length] = value
          try {
            for (const { rows } of await readWorkbook(bytes))
              expect(rows.every((row) => row.every((cell) => typeof cell === 'string'))).toBe(true)
            read++
          } catch (error) {
            expect(error).toBeInstanceOf(BadRequestError)
          }
        },
      ),
      { numRuns: RUNS },
    )
    expect(read).toBeGreaterThan(0)
  },
  60_000 + 20 * RUNS,
)
