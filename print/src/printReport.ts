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

/** What is used of the library under it. */
interface PdfKit {
  readonly prototype: {
    initFonts(this: Fonts, ...given: unknown[]): void
  }
}
interface Fonts {
  registerFont(name: string, bytes: Buffer): void
}

let ready: PdfMake | null = null

/** The library, which is slow to load, when it is first needed. Its fonts are given to it; it reads no file and asks no network. */
const pdfMake = (): PdfMake => {
  if (ready) return ready
  const require = createRequire(import.meta.url)
  ready = require('pdfmake') as PdfMake
  ready.setFonts(FONTS)
  ready.setUrlAccessPolicy(() => false)
  ready.setLocalAccessPolicy(() => false)
  const files = new Set(Object.values(FONTS).flatMap(({ normal, bold }) => [normal, bold]))
  const fonts = new Map([...files].map((file) => [file, fontBytes(file)]))
  for (const [file, bytes] of fonts) ready.virtualfs.writeFileSync(file, bytes)
  knowFonts(createRequire(require.resolve('pdfmake'))('pdfkit') as PdfKit, fonts)
  return ready
}

/**
 * Drawings inside a document ask for their fonts by file, past what the document was given: a wrapped font would be inflated again for each
 * letter, a quarter of the time of a report. Each document knows these files from its beginning.
 */
const knowFonts = ({ prototype }: PdfKit, fonts: ReadonlyMap<string, Buffer>): void => {
  const { initFonts } = prototype
  prototype.initFonts = function (...given) {
    initFonts.apply(this, given)
    for (const [file, bytes] of fonts) this.registerFont(file, bytes)
  }
}

/** A report as PDF, with its fonts inside. */
export const printReport = async (report: Report): Promise<Uint8Array> =>
  new Uint8Array(await pdfMake().createPdf(reportDocument(report)).getBuffer())
