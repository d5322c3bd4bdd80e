import UFuzzy from '@leeoniya/ufuzzy'

/** Words in any order, each with at most one letter wrong, missing, too many or exchanged. */
const fuzzy = new UFuzzy({ intraMode: 1, intraIns: 1, intraSub: 1, intraTrn: 1, intraDel: 1 })
/** Beyond this many matches their order says nothing. */
const ORDERED = 1000

/** Positions of the texts that fit what is typed, the best first. */
export const sought = (texts: readonly string[], typed: string, most: number): number[] => {
  const needle = typed.trim()
  if (needle === '') return []
  const [fits, info, order] = fuzzy.search(texts as string[], needle, 1, ORDERED)
  if (!fits) return []
  return (info && order ? order.map((k) => info.idx[k]!) : fits).slice(0, most)
}

/** Positions of what is sought by its name, then of what only says so of itself. */
export const soughtByMeaning = (
  offered: readonly { readonly label: string; readonly explains: string }[],
  typed: string,
  most: number,
): number[] => {
  const named = sought(
    offered.map(({ label }) => label),
    typed,
    most,
  )
  const meant = sought(
    offered.map(({ label, explains }) => `${label} ${explains}`),
    typed,
    most,
  )
  return [...new Set([...named, ...meant])].slice(0, most)
}

/** What has the very letters that are typed before what only comes near them; otherwise in the order given. */
export const literalFirst = <T>(found: readonly T[], textOf: (one: T) => string, typed: string): T[] => {
  const needle = typed.trim().toLowerCase()
  const isLiteral = (one: T): boolean => textOf(one).toLowerCase().includes(needle)
  return [...found.filter(isLiteral), ...found.filter((one) => !isLiteral(one))]
}
