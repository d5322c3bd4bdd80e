import type { Link, LinkType } from '../plan/schema.ts'
import type { DayLengths } from '../plan/durations.ts'
import { durationWords } from './durations.ts'

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
