import type { LimitRule } from './limits.ts'

/** A value in the unit of a limit: "5 d", "75 %", "7". */
export const limitWords = (value: number, { unit }: Pick<LimitRule, 'unit'>): string => {
  switch (unit) {
    case 'days':
      return `${rounded(value)} d`
    case 'share':
      return `${rounded(value * 100)} %`
    case 'count':
      return String(value)
  }
}
const rounded = (value: number): string => String(Math.round(value * 100) / 100)
