import { strFromU8, unzipSync } from 'fflate'
import { expect, savedAs, test, type Page } from './plan.ts'

/** Reads a drawing with an XML reader and draws it by itself, as any program would. */
const readSvg = (page: Page, svg: string) =>
  page.evaluate(async (text) => {
    const parsed = new DOMParser().parseFromString(text, 'image/svg+xml')
    const image = new Image()
    image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(text)}`
    await image.decode()
    const all = [...parsed.querySelectorAll('*')]
    return {
      isWhole: parsed.querySelector('parsererror') === null,
      size: [image.naturalWidth, image.naturalHeight],
      words: [...parsed.querySelectorAll('text')].map((one) => one.textContent!.trim()),
      // What only a page could resolve: its style sheets, its variables, patterns that stand elsewhere.
      leans: all.filter(
        (one) =>
          one.getAttributeNames().some((name) => /^(class|style)$/.test(name)) ||
          /var\(/.test(one.outerHTML.split('>')[0]!),
      ).length,
      missing: [...text.matchAll(/url\(#([^)]+)\)/g)]
        .map(([, id]) => id!)
        .filter((id) => parsed.getElementById(id) === null),
      texts: parsed.documentElement.textContent,
    }
  }, svg)

test('give the load and the cost to others: the drawing as it is seen, the table as figures that add up', async ({
  page,
  kittiwake,
}) => {
  await kittiwake.open('resources/load')
  await page
    .getByTestId('load-strips')
    .getByRole('button', { name: /^Crane/ })
    .click()
  const load = await savedAs(page, 'Load', 'SVG')
  expect(load.name).toBe('KITE Load.svg')
  const drawn = await readSvg(page, load.bytes.toString())
  expect(drawn).toMatchObject({ isWhole: true, leans: 0, missing: [] })
  // The names are the page's words, what is asked for the drawing's; the ruler stands above all of it.
  expect(drawn.words).toEqual(
    expect.arrayContaining(['Crane', 'Electricians', 'required 1 Jul', 'asks for 1']),
  )
  const strips = (await page.getByTestId('load-strips').boundingBox())!
  expect(drawn.size[0]).toBeGreaterThanOrEqual(Math.floor(strips.width))
  expect(drawn.size[1]).toBe(Math.ceil(strips.height))

  await page.getByRole('tab', { name: 'Money' }).click()
  const csv = (await savedAs(page, 'Cost by group', 'CSV')).bytes.toString()
  const rows = csv
    .trim()
    .split('\r\n')
    .map((row) => row.split(','))
  const [total, parts] = [rows.at(-1)!, rows.slice(1, -1)]
  expect(rows[0]!.slice(-3)).toEqual(['Planned', 'At completion', 'Difference'])
  expect(parts.reduce((sum, row) => sum + Number(row[3]), 0)).toBe(Number(total[3]))
  expect(total[3]).toBe((await page.getByTestId('money-total').textContent())!.replace(/\D/g, ''))

  const book = unzipSync((await savedAs(page, 'Cost by month', 'XLSX')).bytes)
  const sheet = strFromU8(book['xl/worksheets/sheet1.xml']!)
  const strings = strFromU8(book['xl/sharedStrings.xml']!)
  // Days with their year, amounts as numbers: 2027-03-31 is a word of the book, the sum of all a value.
  expect(strings).toContain('2027-03-31')
  expect(sheet).toContain(`<v>${Number(total[2])}</v>`)
})

test('hang the year up: the planner as a drawing, with its days off struck out', async ({
  page,
  kittiwake,
}) => {
  await kittiwake.open('calendars')
  const off = await page.locator('.dayno.off').count()
  expect(off).toBeGreaterThan(0)
  const { name, bytes } = await savedAs(page, 'Yard day shift 2027', 'SVG')
  expect(name).toBe('KITE Yard day shift 2027.svg')
  const drawn = await readSvg(page, bytes.toString())
  expect(drawn).toMatchObject({ isWhole: true, leans: 0, missing: [] })
  expect(drawn.words).toEqual(expect.arrayContaining(['Mar', '31', 'M']))
  expect(drawn.words.filter((word) => word === '15')).toHaveLength(await page.locator('.month').count())
  expect(bytes.toString().match(/<line /g)).toHaveLength(off)
})

test('what is saved on the page of all plans is not called by the plan that was open before', async ({
  page,
  kiln,
}) => {
  await kiln.open()
  await page.getByRole('link', { name: 'Geodrome' }).click()
  const plans = await savedAs(page, 'Plans', 'CSV')
  expect(plans.name).toBe('Plans.csv')
  expect(plans.bytes.toString().split('\r\n')[0]).toBe(
    'Plan,,Finish planned,Against the required,P80,Review,Changed',
  )
})

test('a table of which only a part is in view is saved whole', async ({ page, kittiwake }) => {
  await kittiwake.open('forecast/estimates')
  const shown = await page.getByTestId('estimates').locator('tbody tr').count()
  const rows = (await savedAs(page, 'Estimates', 'CSV')).bytes.toString().trim().split('\r\n')
  const work = (await kittiwake.onServer()).plan.activities.filter(({ kind }) => kind === 'work')
  expect(rows).toHaveLength(1 + work.length)
  expect(shown).toBeLessThan(work.length)
})

test('names that a spreadsheet would take for formulas, commas and quotes come through as they are', async ({
  page,
  kiln,
}) => {
  await kiln.open()
  await kiln.type('B10', 'Activity', '=2+5, "hot", 1,200')
  await kiln.stage('Handover')
  await page.getByRole('tab', { name: 'Changes' }).click()
  const csv = (await savedAs(page, 'Changes', 'CSV')).bytes.toString()
  expect(csv.split('\r\n')[0]).toBe('Revision,By,Change,When')
  expect(csv).toMatch(/""hot"", 1,200/)
  expect(csv).not.toMatch(/(^|,)"?=2/m)
})

test('a drawing as a picture has the letters of the page', async ({ page, kittiwake }) => {
  await kittiwake.open('scenarios')
  const { bytes } = await savedAs(page, 'Finishes of the scenarios', 'PNG')
  expect(bytes.subarray(1, 4).toString()).toBe('PNG')
  const [width, height] = [bytes.readUInt32BE(16), bytes.readUInt32BE(20)]
  const box = (await page.getByTestId('scenario-dots').boundingBox())!
  expect([width, height]).toEqual([Math.ceil(box.width) * 2, Math.ceil(box.height) * 2])
  // Drawn on the theme's paper, not on nothing: the first pixel is not see-through.
  const isPaper = await page.evaluate(async (data) => {
    const image = new Image()
    image.src = `data:image/png;base64,${data}`
    await image.decode()
    const canvas = document.createElement('canvas')
    const context = canvas.getContext('2d')!
    context.drawImage(image, 0, 0)
    return context.getImageData(0, 0, 1, 1).data[3] === 255
  }, bytes.toString('base64'))
  expect(isPaper).toBe(true)
})
