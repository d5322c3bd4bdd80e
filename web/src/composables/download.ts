/** Gives a text to the user as a file. */
export const download = (text: string | Blob, name: string, type: string): void => {
  const url = URL.createObjectURL(typeof text === 'string' ? new Blob([text], { type }) : text)
  const link = document.createElement('a')
  link.href = url
  link.download = name
  link.click()
  URL.revokeObjectURL(url)
}
