import type { DayLengths } from '../plan/durations.ts'
import type { LinkType } from '../plan/schema.ts'
import { readDuration } from './durations.ts'

/** One link of several that were typed: what it goes to, how, and its lag as it was written. */
export interface TypedEnd<T> {
  readonly to: T
  readonly type: LinkType
  /** Working minutes, on the calendar of the link; or why it cannot be read. */
  lag(
    lengths: DayLengths,
  ): { readonly ok: true; readonly minutes: number } | { readonly ok: false; readonly why: string }
}
export type TypedLinks<T> =
  { readonly ok: true; readonly links: readonly TypedEnd<T>[] } | { readonly ok: false; readonly why: string }

/** What a code or a name stands for: none, one, or several of the same name. */
export type FindEnd<T> = (ref: string) => readonly T[]

const SENTENCES: readonly (readonly [RegExp, LinkType])[] = [
  [/^ends\s+with\s+the\s+start\s+of\s+/i, 'SF'],
  [/^ends\s+with\s+(the\s+(end|finish)\s+of\s+)?/i, 'FF'],
  [/^(starts\s+)?with\s+the\s+start\s+of\s+/i, 'SS'],
  [/^(starts\s+)?with\s+/i, 'SS'],
  [/^(waits\s+for|follows|after)\s+/i, 'FS'],
]
/** ", 2d later" behind a sentence. */
const LATER = /^(.+?),?\s+(\d.*?)\s+(later|earlier)$/i
/** "K10 FS 2d", "K10FS+2d", "K10 (SS) -1 day", "K10 +2d". */
const TYPED = /^(.+?)\s*[:(]?\s*(?:\b|(?<=\d))(FS|SS|FF|SF)\s*\)?\s*([+−-]?\s*\d.*)?$/i
const SIGNED = /^(.+?)\s*([+−-]\s*\d+(?:[.,]\d+)?\s*[a-z]*)$/i
const SEPARATOR = /(\s*[;\n|]\s*|\s*,\s*|\s+(?:and|&)\s+)/i

/** "2d", "1 d 4 h", "1,5 days", "3 d round the clock": nothing that another link begins in. */
const LAG = /^\d+(?:[.,]\d+)?\s*[a-z]*(?:\s+\d+(?:[.,]\d+)?\s*[a-z]*)*(?:\s+round the clock)?$/i

interface Written {
  readonly ref: string
  readonly type: LinkType
  readonly lag: string
  readonly sign: 1 | -1
}

/** The ways in which one piece can be meant, the plainest first. @param before - the type that the sentence before had */
const meanings = (piece: string, before: LinkType): Written[] => {
  const sentence = SENTENCES.find(([start]) => start.test(piece))
  const rest = sentence ? piece.replace(sentence[0], '') : piece
  const type = sentence?.[1] ?? before
  const found: Written[] = [
    { ref: piece, type: before, lag: '', sign: 1 },
    { ref: rest.trim(), type, lag: '', sign: 1 },
  ]
  const later = LATER.exec(rest)
  if (later)
    found.push({
      ref: later[1]!.trim(),
      type,
      lag: later[2]!,
      sign: later[3]!.toLowerCase() === 'earlier' ? -1 : 1,
    })
  const typed = sentence ? null : TYPED.exec(rest)
  if (typed) found.push(signed(typed[1]!, typed[2]!.toUpperCase() as LinkType, typed[3] ?? ''))
  const lagged = SIGNED.exec(rest)
  if (lagged) found.push(signed(lagged[1]!, type, lagged[2]!))
  return found.filter(({ lag }) => lag === '' || LAG.test(lag))
}
const signed = (ref: string, type: LinkType, lag: string): Written => {
  const bare = lag.trim()
  return {
    ref: ref.trim(),
    type,
    lag: bare.replace(/^[+−-]\s*/, ''),
    sign: /^[−-]/.test(bare) ? -1 : 1,
  }
}

/**
 * Reads links as anybody writes them, wherever they are typed: "after A20 and A30", "A20, A30 SS 2d; ends with B10, 1 d later",
 * "A20FS+2d", "after Lay new lining". Codes and names, with any separator; a name that holds a comma or an "and" is found as a whole.
 */
export const readLinks = <T>(text: string, find: FindEnd<T>): TypedLinks<T> => {
  const parts = text.trim().split(SEPARATOR)
  const links: TypedEnd<T>[] = []
  let before: LinkType = 'FS'
  let at = 0
  while (at < parts.length) {
    if (parts[at]!.trim() === '') {
      at += 2
      continue
    }
    const one: Longest<T> = longest(parts, at, before, find)
    if (!one.ok) return one
    links.push(one.link)
    before = one.link.type
    at = one.next
  }
  return { ok: true, links }
}

type Longest<T> =
  | { readonly ok: true; readonly link: TypedEnd<T>; readonly next: number }
  | { readonly ok: false; readonly why: string }

/** The link that takes most of what follows: a lag behind a comma, a name with an "and" in it. */
const longest = <T>(parts: readonly string[], at: number, before: LinkType, find: FindEnd<T>): Longest<T> => {
  let several = ''
  for (let to = Math.min(parts.length - 1, at + MOST_JOINED); to >= at; to--) {
    if ((to - at) % 2 === 1) continue
    const piece = parts
      .slice(at, to + 1)
      .join('')
      .trim()
    for (const { ref, type, lag, sign } of meanings(piece, before)) {
      const ends = ref === '' ? [] : find(ref)
      if (ends.length > 1) several = ref
      if (ends.length !== 1) continue
      const lagOf = (lengths: DayLengths): ReturnType<TypedEnd<T>['lag']> => {
        if (lag === '') return { ok: true, minutes: 0 }
        const read = readDuration(lag, lengths)
        return read.ok ? { ok: true, minutes: sign * read.minutes } : read
      }
      return { ok: true, link: { to: ends[0]!, type, lag: lagOf }, next: to + 2 }
    }
  }
  if (several !== '') return { ok: false, why: `several activities are called “${several}”; write the code` }
  // Of what cannot be found, what would be looked for.
  const tried = meanings(parts[at]!.trim(), before)
  return { ok: false, why: `there is no activity “${tried.at(-1)!.ref || parts[at]!.trim()}”` }
}
/**
 * One link as it is written, where it is not known yet what there is to find: "after K10, 2d later", "K10 FS 2 days", "12FF-1 day".
 * @returns what it goes to; the lag as text with its sign, empty for none
 */
export const linkAsWritten = (
  piece: string,
): { readonly ref: string; readonly type: LinkType; readonly lag: string } => {
  const bare = /\(.*\)$/.test(piece.trim()) ? piece.trim().slice(0, -1).replace('(', ' ') : piece.trim()
  const [plain, , ...lagged] = meanings(bare, 'FS')
  const isSentence = SENTENCES.some(([start]) => start.test(bare))
  const { ref, type, lag, sign } = lagged[0] ?? (isSentence ? meanings(bare, 'FS')[1]! : plain!)
  return { ref, type, lag: lag === '' ? '' : `${sign < 0 ? '-' : ''}${lag}` }
}
/** Whether a piece is a link as a sentence, whose lag may stand behind a comma. */
export const isLinkSentence = (piece: string): boolean => SENTENCES.some(([start]) => start.test(piece))
/** Pieces and separators that are tried as one. */
const MOST_JOINED = 8

/** Finds activities by code, or else by name, in any case. */
export const findByCodeOrName = <T extends { readonly code: string; readonly name: string }>(
  activities: readonly T[],
): FindEnd<T> => {
  let byCode: Map<string, T> | null = null
  let byName: Map<string, T[]> | null = null
  return (ref) => {
    const key = ref.toLowerCase()
    byCode ??= new Map(activities.map((one) => [one.code.toLowerCase(), one]))
    const coded = byCode.get(key)
    if (coded) return [coded]
    if (!byName) {
      byName = new Map()
      for (const one of activities) {
        const name = one.name.trim().toLowerCase()
        if (name !== '') byName.set(name, [...(byName.get(name) ?? []), one])
      }
    }
    return byName.get(key) ?? []
  }
}
