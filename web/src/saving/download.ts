/** Gives the user a file. @param type - media type of a text */
export const download = (text: string | Blob, name: string, type?: string): void => {
  const url = URL.createObjectURL(
    typeof text === 'string' ? new Blob([text], type === undefined ? {} : { type }) : text,
  )
  const link = document.createElement('a')
  link.href = url
  link.download = name
  link.click()
  URL.revokeObjectURL(url)
}

/** The text that a data address holds: the page's rules do not let it be fetched. */
export const textOf = (address: string): string => {
  const comma = address.indexOf(',')
  const body = address.slice(comma + 1)
  return address.slice(0, comma).endsWith(';base64')
    ? new TextDecoder().decode(Uint8Array.from(atob(body), (letter) => letter.charCodeAt(0)))
    : decodeURIComponent(body)
}
