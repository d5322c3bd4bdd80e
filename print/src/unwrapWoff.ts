import { inflateSync } from 'node:zlib'

const HEADER = 44
const ENTRY = 20

/**
 * A font in a WOFF file as the sfnt that is wrapped in it (TrueType, OpenType): its tables are inflated once, by zlib, and not each time
 * that they are read.
 * @see W3C, WOFF File Format 1.0, sections 3 to 5
 * @throws Error where it is no WOFF file
 */
export const unwrapWoff = (woff: Buffer): Buffer => {
  if (woff.toString('latin1', 0, 4) !== 'wOFF') throw new Error('not a WOFF file')
  const count = woff.readUInt16BE(12)
  const head = Buffer.alloc(12 + 16 * count)
  woff.copy(head, 0, 4, 8)
  head.writeUInt16BE(count, 4)
  const power = 2 ** Math.floor(Math.log2(count))
  head.writeUInt16BE(power * 16, 6)
  head.writeUInt16BE(Math.log2(power), 8)
  head.writeUInt16BE((count - power) * 16, 10)
  const parts = [head]
  let at = head.length
  for (let k = 0; k < count; k++) {
    const entry = HEADER + k * ENTRY
    const [offset, packed, length, checksum] = [4, 8, 12, 16].map((field) =>
      woff.readUInt32BE(entry + field),
    ) as [number, number, number, number]
    const raw = woff.subarray(offset, offset + packed)
    const table = packed < length ? inflateSync(raw) : raw
    const record = 12 + 16 * k
    woff.copy(head, record, entry, entry + 4)
    head.writeUInt32BE(checksum, record + 4)
    head.writeUInt32BE(at, record + 8)
    head.writeUInt32BE(length, record + 12)
    // Tables begin at multiples of four.
    const padded = Buffer.alloc(Math.ceil(length / 4) * 4)
    table.copy(padded)
    parts.push(padded)
    at += padded.length
  }
  return Buffer.concat(parts)
}
