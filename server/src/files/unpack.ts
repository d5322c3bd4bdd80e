import { Unzip, UnzipInflate } from 'fflate'
import { BadRequestError } from '../errors.ts'

const PIECE = 64 * 1024

/**
 * Unpacks an archive piece by piece. What it says of its own sizes is not believed: bytes are counted as they come out.
 * @param wanted - which of its files are unpacked
 * @throws BadRequestError if more comes out than is allowed; Error if it is no archive
 */
export const unpack = (
  archive: Uint8Array,
  mostBytes: number,
  wanted: (name: string) => boolean,
): Map<string, Uint8Array> => {
  const files = new Map<string, Uint8Array>()
  let total = 0
  const failures: Error[] = []
  const unzip = new Unzip((file) => {
    if (!wanted(file.name)) return
    const pieces: Uint8Array[] = []
    file.ondata = (error, piece, isLast) => {
      if (error) failures.push(error)
      if (failures.length > 0) return
      total += piece.length
      if (total > mostBytes) {
        failures.push(
          new BadRequestError(
            `this workbook unpacks to more than ${Math.round(mostBytes / 1024 / 1024)} MB; leave out what is not a list`,
          ),
        )
        return
      }
      pieces.push(piece)
      if (isLast) files.set(file.name, Buffer.concat(pieces))
    }
    file.start()
  })
  unzip.register(UnzipInflate)
  for (let from = 0; from < archive.length; from += PIECE) {
    unzip.push(archive.subarray(from, from + PIECE), from + PIECE >= archive.length)
    if (failures.length > 0) throw failures[0]!
  }
  return files
}
