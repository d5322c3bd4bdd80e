import { createRequire } from 'node:module'
import type { Report } from '@geodrome/core'
import type { TDocumentDefinitions } from 'pdfmake/interfaces.js'
import { fontBytes, FONTS } from './fonts.ts'
import { reportDocument } from './reportDocument.ts'

/** What is used of pdfmake on a server; its types are those of the browser's build. */
interface PdfMake {
  readonly virtualfs: { writeFileSync(name: string, bytes: Buffer): void }
  setFonts(fonts: typeof FONTS): void
  setUrlAccessPolicy(allows: (url: string) => boolean): void
  setLocalAccessPolicy(allows: (path: string) => boolean): void
  createPdf(document: TDocumentDefinitions): { getBuffer(): Promise<Uint8Array> }
}

let ready: PdfMake | null = null

/** The library, which is slow to load, when it is first needed. Its fonts are given to it; it reads no file and asks no network. */
const pdfMake = (): PdfMake => {
  if (ready) return ready
  ready = createRequire(import.meta.url)('pdfmake') as PdfMake
  ready.setFonts(FONTS)
  ready.setUrlAccessPolicy(() => false)
  ready.setLocalAccessPolicy(() => false)
  for (const { normal, bold } of Object.values(FONTS))
    for (const file of [normal, bold]) ready.virtualfs.writeFileSync(file, fontBytes(file))
  return ready
}

/** A report as PDF, with its fonts inside. */
export const printReport = async (report: Report): Promise<Uint8Array> =>
  new Uint8Array(await pdfMake().createPdf(reportDocument(report)).getBuffer())
