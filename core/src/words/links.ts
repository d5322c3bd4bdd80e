import type { Link, LinkType } from '../plan/schema.ts'
import type { DayLengths } from '../plan/durations.ts'
import { durationWords, readDuration } from './durations.ts'

/** How a link reads at its successor: "after H10", "with the start of H10", "ends with H10". */
export const LINK_PHRASE: Readonly<Record<LinkType, (code: string) => string>> = {
  FS: (code) => `after ${code}`,
  SS: (code) => `with the start of ${code}`,
  FF: (code) => `ends with ${code}`,
  SF: (code) => `ends with the start of ${code}`,
}

/** ", 6 h later" or ", 2 d earlier"; nothing for a lag of 0. */
export const lagPhrase = (lag: number, lengths: DayLengths): string =>
  lag === 0 ? '' : `, ${durationWords(Math.abs(lag), lengths)} ${lag > 0 ? 'later' : 'earlier'}`

export const linkPhrase = (link: Pick<Link, 'type' | 'lag'>, code: string, lengths: DayLengths): string =>
  LINK_PHRASE[link.type](code) + lagPhrase(link.lag, lengths)

export type TypedLink =
  | { readonly ok: true; readonly code: string; readonly type: LinkType; readonly lag: number }
  | { readonly ok: false; readonly why: string }

const SENTENCES: readonly (readonly [RegExp, LinkType])[] = [
  [/^ends\s+with\s+the\s+start\s+of\s+/i, 'SF'],
  [/^ends\s+with\s+/i, 'FF'],
  [/^with\s+the\s+start\s+of\s+/i, 'SS'],
  [/^(starts\s+)?with\s+/i, 'SS'],
  [/^after\s+/i, 'FS'],
]

/** Reads a link typed as a sentence ("after H10, 2d later", "with the start of H10, 6 h later") or short ("H10 SS 6h", "H10"). */
export const readLink = (text: string, lengths: DayLengths): TypedLink => {
  const trimmed = text.trim()
  const refused: TypedLink = {
    ok: false,
    why: `“${trimmed}” is not a link; write for example “after H10”, “with the start of H10, 6h later” or “H10 FF 2d”`,
  }
  const sentence = SENTENCES.find(([start]) => start.test(trimmed))
  if (sentence) {
    const match = /^(\S+?)(?:,?\s+(.+?)\s+(later|earlier))?$/i.exec(trimmed.replace(sentence[0], ''))
    if (!match) return refused
    return withLag(
      match[1]!.replace(/,$/, ''),
      sentence[1],
      match[2],
      match[3]?.toLowerCase() === 'earlier' ? -1 : 1,
      lengths,
    )
  }
  const [code, ...rest] = trimmed.split(/\s+/)
  const match = /^(FS|SS|FF|SF)?\s*([+-]?\s*\d.*)?$/i.exec(rest.join(' '))
  if (!code || !match) return refused
  return withLag(code, (match[1]?.toUpperCase() ?? 'FS') as LinkType, match[2], 1, lengths)
}

const withLag = (
  code: string,
  type: LinkType,
  lag: string | undefined,
  sign: number,
  lengths: DayLengths,
): TypedLink => {
  if (lag === undefined) return { ok: true, code, type, lag: 0 }
  const read = readDuration(lag, lengths)
  return read.ok ? { ok: true, code, type, lag: sign * read.minutes } : read
}
