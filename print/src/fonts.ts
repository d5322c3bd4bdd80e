import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { create, type Font } from 'fontkit'
import { unwrapWoff } from './unwrapWoff.ts'

const require = createRequire(import.meta.url)
const sans = (part: string): string =>
  require.resolve(`@fontsource/instrument-sans/files/instrument-sans-${part}-normal.woff`)
const grotesque = (part: string): string =>
  require.resolve(`@fontsource/bricolage-grotesque/files/bricolage-grotesque-${part}-normal.woff`)
const dejavu = (part: string): string => require.resolve(`dejavu-fonts-ttf/ttf/${part}.ttf`)

/** Files of each family: for text, then for letters that it does not have, then for signs and other alphabets. */
const face = (normal: string, bold: string) => ({ normal, bold, italics: normal, bolditalics: bold })
export const FONTS = {
  'Instrument Sans': face(sans('latin-400'), sans('latin-600')),
  'Instrument Sans Ext': face(sans('latin-ext-400'), sans('latin-ext-600')),
  'Bricolage Grotesque': face(grotesque('latin-600'), grotesque('latin-700')),
  'DejaVu Sans': face(dejavu('DejaVuSans'), dejavu('DejaVuSans-Bold')),
} as const
export type Family = keyof typeof FONTS

/** The font in a file, out of its wrapping. */
export const fontBytes = (file: string): Buffer => {
  const bytes = readFileSync(file)
  return file.endsWith('.woff') ? unwrapWoff(bytes) : bytes
}

const opened = new Map<Family, Font>()
const has = (family: Family, letter: number): boolean => {
  let font = opened.get(family)
  if (!font) opened.set(family, (font = create(fontBytes(FONTS[family].normal)) as Font))
  return font.hasGlyphForCodePoint(letter)
}

/** A stretch of a text that one family can draw. */
export interface FontRun {
  readonly text: string
  readonly family: Family
}

/** A text in stretches, each in the first family that has its letters; what none of them has stays in the last. */
export const fontRuns = (text: string, first: Family = 'Instrument Sans'): FontRun[] => {
  const order: readonly Family[] = [first, 'Instrument Sans', 'Instrument Sans Ext', 'DejaVu Sans']
  const runs: { text: string; family: Family }[] = []
  for (const letter of text) {
    const code = letter.codePointAt(0)!
    const last = runs.at(-1)
    const family = last && code <= 0x20 ? last.family : (order.find((one) => has(one, code)) ?? 'DejaVu Sans')
    if (last?.family === family) last.text += letter
    else runs.push({ text: letter, family })
  }
  return runs
}

const WEB_FACES = [
  ['Instrument Sans', 400, '@fontsource/instrument-sans/files/instrument-sans-latin-400-normal.woff2'],
  ['Instrument Sans', 600, '@fontsource/instrument-sans/files/instrument-sans-latin-600-normal.woff2'],
  [
    'Bricolage Grotesque',
    700,
    '@fontsource/bricolage-grotesque/files/bricolage-grotesque-latin-700-normal.woff2',
  ],
] as const

/** The fonts of a page, inside it: it needs no network and no other file. */
export const webFontRules = (): string =>
  WEB_FACES.map(
    ([family, weight, file]) =>
      `@font-face { font-family: '${family}'; font-weight: ${weight}; src: url(data:font/woff2;base64,${readFileSync(require.resolve(file)).toString('base64')}) format('woff2'); }\n`,
  ).join('')
