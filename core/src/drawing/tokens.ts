/** The one place of every colour and measure: interface, drawings, charts and reports all take them from here. */
export interface Tokens {
  readonly paper: string
  readonly raised: string
  readonly shade: string
  readonly ink: string
  readonly softInk: string
  readonly hairline: string
  /** Lines that carry meaning: 3:1 on paper. */
  readonly line: string
  readonly signal: string
  readonly signalText: string
  readonly wash: string
  readonly fjord: string
  readonly plum: string
  readonly slate: string
  readonly moss: string
  readonly brick: string
  readonly stone: string
}

export const DAYLIGHT: Tokens = {
  paper: '#F6F3EC',
  raised: '#FFFDF8',
  shade: '#E6DFCF',
  ink: '#1E2733',
  softInk: '#56606C',
  hairline: '#D3CCBC',
  line: '#857E6F',
  signal: '#E3A02C',
  signalText: '#8A5200',
  wash: '#FBF0DC',
  fjord: '#0F6A78',
  plum: '#74407A',
  slate: '#45568F',
  moss: '#56702C',
  brick: '#A23B2A',
  stone: '#B9B2A0',
}

export const DUSK: Tokens = {
  paper: '#171C23',
  raised: '#1F262F',
  shade: '#262E38',
  ink: '#EFE9DC',
  softInk: '#A9B0B8',
  hairline: '#3A434E',
  line: '#8C94A0',
  signal: '#E3A02C',
  signalText: '#F0B755',
  wash: '#332B1C',
  fjord: '#63BFCD',
  plum: '#C79ACD',
  slate: '#A3B2E6',
  moss: '#A5C273',
  brick: '#EE8B78',
  stone: '#6B7078',
}

/** Height of a row in the list and on the Ground, in pixels. */
export const ROW_HEIGHT = 29
