/** A short name for a text: 53 bits of it, so that two of a plan's texts practically never share one. Not for secrets. */
export const hashOf = (text: string): string => {
  let low = 0xdeadbeef
  let high = 0x41c6ce57
  for (let k = 0; k < text.length; k++) {
    const unit = text.charCodeAt(k)
    low = Math.imul(low ^ unit, 2654435761)
    high = Math.imul(high ^ unit, 1597334677)
  }
  low = Math.imul(low ^ (low >>> 16), 2246822507) ^ Math.imul(high ^ (high >>> 13), 3266489909)
  high = Math.imul(high ^ (high >>> 16), 2246822507) ^ Math.imul(low ^ (low >>> 13), 3266489909)
  return ((high & 0x1fffff) * 2 ** 32 + (low >>> 0)).toString(36)
}
