import type { Tokens } from '@geodrome/core'

/** The families of letters; colours and measures stand in core/src/drawing/tokens.ts. */
export const FONTS = {
  headline: "'Bricolage Grotesque Variable', sans-serif",
  text: "'Instrument Sans Variable', sans-serif",
  code: "'Sometype Mono Variable', monospace",
} as const

/** The tokens as CSS custom properties. */
export const cssVariables = (tokens: Tokens): Record<string, string> =>
  Object.fromEntries(
    Object.entries(tokens).map(([name, value]) => [
      `--${name.replace(/[A-Z]/g, (c) => '-' + c.toLowerCase())}`,
      value as string,
    ]),
  )
