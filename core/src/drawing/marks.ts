import type { Tokens } from './tokens.ts'

/** What sets runs and scenarios apart, by their place in a list: a mark that is told without its colour. */
export const MARKS = ['●', '▲', '■', '◆', '★', '✚'] as const
const COLOURS = [
  'ink',
  'fjord',
  'plum',
  'slate',
  'moss',
  'brick',
] as const satisfies readonly (keyof Tokens)[]

/** @param place - from 0; further ones by mark alone */
export const markOf = (place: number): string => MARKS[place % MARKS.length]!
export const markColour = (t: Tokens, place: number): string => t[COLOURS[place % COLOURS.length]!]

/** The marks as paths around 0, 0. */
export const MARK_PATHS: Readonly<Record<string, string>> = {
  '●': 'M0,-3.3a3.3,3.3 0 1 0 0.01,0z',
  '▲': 'M0,-3.6l3.8,6.8h-7.6z',
  '■': 'M-3.1,-3.1h6.2v6.2h-6.2z',
  '◆': 'M0,-4l4,4l-4,4l-4,-4z',
  '★': 'M0,-4.2l1.2,2.8 3,.2 -2.3,2 .8,3 -2.7,-1.7 -2.7,1.7 .8,-3 -2.3,-2 3,-.2z',
  '✚': 'M-1.2,-3.7h2.4v2.5h2.5v2.4h-2.5v2.5h-2.4v-2.5h-2.5v-2.4h2.5z',
}
