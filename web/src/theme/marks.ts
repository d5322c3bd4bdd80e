import { type Tokens } from '@geodrome/core'

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
