/** The page's own letters that a drawing is written in, within the drawing: a picture is drawn by itself, without the page. */
const withLetters = async (svg: string): Promise<string> => {
  const faces = [...document.styleSheets]
    .flatMap((sheet) => [...sheet.cssRules])
    .filter((rule) => rule instanceof CSSFontFaceRule)
  const loaded = new Set(
    [...document.fonts]
      .filter(({ status }) => status === 'loaded')
      .map(({ family, unicodeRange }) => `${family} ${unicodeRange}`.replace(/["']/g, '')),
  )
  const isUsed = ({ style }: CSSFontFaceRule): boolean => {
    const family = style.getPropertyValue('font-family').replace(/["']/g, '')
    return svg.includes(family) && loaded.has(`${family} ${style.getPropertyValue('unicode-range')}`)
  }
  const rules = await Promise.all(
    faces.filter(isUsed).map(async ({ cssText, parentStyleSheet }) => {
      const address = /url\(["']?([^"')]+)["']?\)/.exec(cssText)?.[1]
      if (!address) return ''
      const file = await (await fetch(new URL(address, parentStyleSheet?.href ?? document.baseURI))).blob()
      const data = await new Promise<string>((resolve, reject) => {
        const reader = new FileReader()
        reader.onload = () => resolve(reader.result as string)
        reader.onerror = () => reject(reader.error ?? new Error('a font cannot be read'))
        reader.readAsDataURL(file)
      })
      return cssText.replace(address, data)
    }),
  )
  return svg.replace(/<svg[^>]*>/, (head) => `${head}<style>${rules.join('')}</style>`)
}

/** A drawing as a picture (PNG), twice as fine as the screen. @throws Error where the browser cannot draw it */
export const pngOf = async (svg: string): Promise<Blob> => {
  const image = new Image()
  const url = URL.createObjectURL(new Blob([await withLetters(svg)], { type: 'image/svg+xml' }))
  try {
    image.src = url
    await image.decode()
    const factor = Math.min(2, 16_000 / Math.max(image.width, image.height))
    const canvas = document.createElement('canvas')
    canvas.width = image.width * factor
    canvas.height = image.height * factor
    canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height)
    const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'))
    if (!blob) throw new Error('the drawing is too large for a picture; save it as SVG')
    return blob
  } finally {
    URL.revokeObjectURL(url)
  }
}
