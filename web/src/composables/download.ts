/** Gives a text to the user as a file. */
export const download = (text: string | Blob, name: string, type: string): void => {
  const url = URL.createObjectURL(typeof text === 'string' ? new Blob([text], { type }) : text)
  const link = document.createElement('a')
  link.href = url
  link.download = name
  link.click()
  URL.revokeObjectURL(url)
}

/** What a data address holds: the page's rules do not let it be fetched. */
export const blobOf = (address: string): Blob => {
  const comma = address.indexOf(',')
  const head = address.slice(5, comma)
  const body = address.slice(comma + 1)
  const type = head.replace(/;base64$/, '')
  if (!head.endsWith(';base64')) return new Blob([decodeURIComponent(body)], { type })
  return new Blob([Uint8Array.from(atob(body), (letter) => letter.charCodeAt(0))], { type })
}
