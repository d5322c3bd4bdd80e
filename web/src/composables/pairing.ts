import { pairRuns, type Pairing } from '@geodrome/core'

/** @param base64 - little-endian int32 instants, one an iteration */
const decode = (base64: string): Int32Array => {
  const binary = atob(base64)
  const bytes = Uint8Array.from(binary, (c) => c.charCodeAt(0))
  return new Int32Array(bytes.buffer)
}

/** Two kept runs by their finishes, as they come from the server. */
export const pairFinishes = (first: string, second: string): Pairing =>
  pairRuns(decode(first), decode(second))
