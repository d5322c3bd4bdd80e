/** What XML 1.0 cannot hold: control letters, half letters, and two that are none. */
const NOT_XML =
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g

const NAMED: Readonly<Record<string, string>> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&#39;',
}

/** A text without letters that XML has no place for. */
export const xmlLetters = (text: string): string => text.replace(NOT_XML, '')

/** A text as it stands in XML, between marks and in quotes: a drawing stays a drawing whatever names are in it. */
export const xmlText = (text: string): string => xmlLetters(text).replace(/[&<>"']/g, (sign) => NAMED[sign]!)
