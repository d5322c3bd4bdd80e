import { isIP } from 'node:net'
import type { RequestHandler } from 'express'

const nameOf = (host: string | undefined): string | null => {
  const url = `http://${host ?? ''}/`
  return host !== undefined && URL.canParse(url) ? new URL(url).hostname.toLowerCase() : null
}

/**
 * Answers under names that are ours only. A page of another name that is made to resolve to this machine (DNS rebinding) would else be
 * of our own origin to a browser, and read and write what it likes. Addresses in figures cannot be rebound.
 * @param names - names beside localhost
 */
export const knownHost = (names: readonly string[]): RequestHandler => {
  const known = new Set(['localhost', ...names.map((name) => name.toLowerCase())])
  return (request, response, next) => {
    const name = nameOf(request.headers.host)
    if (name !== null && (known.has(name) || isIP(name.replace(/^\[|\]$/g, '')) !== 0)) return next()
    response.status(421).json({
      error: 'host',
      message: `this server does not answer under that name; open it as localhost, or name it in GEODROME_HOSTS`,
    })
  }
}
