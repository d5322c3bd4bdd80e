/** A drawing as a picture (PNG), twice as fine as the screen. @throws Error where the browser cannot draw it */
export const pngOf = async (svg: string): Promise<Blob> => {
  const image = new Image()
  const url = URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }))
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
