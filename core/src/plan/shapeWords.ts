import type { z } from 'zod'

/** What a value of a kind is called in a plan file. */
const KINDS: Readonly<Record<string, string>> = {
  string: 'a text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
  object: 'an object { … }',
  record: 'an object { … }',
  array: 'a list [ … ]',
  tuple: 'a list [ … ]',
  null: 'null',
}
const kindOf = (value: unknown): string =>
  value === null ? 'null' : Array.isArray(value) ? 'array' : typeof value

const shown = (value: unknown): string => {
  const text = JSON.stringify(value) ?? String(value)
  return text.length > 60 ? `${text.slice(0, 57)}…` : text
}
/** Names of fields and positions in lists, as one says them. */
const named = (path: readonly PropertyKey[]): string => {
  const last = path.at(-1)
  if (last === undefined) return 'this file'
  return typeof last === 'number' ? `item ${last + 1}` : `"${String(last)}"`
}

/** What is wrong with the shape of a value, and what it should be, in the terms of the file. @param json - what was read */
export const shapeWords = (issue: z.core.$ZodIssue, json: unknown): string => {
  const value = issue.path.reduce<unknown>(
    (at, key) => (at as Record<PropertyKey, unknown> | null | undefined)?.[key],
    json,
  )
  const what = named(issue.path)
  if (issue.code === 'invalid_type') {
    const wanted = KINDS[issue.expected] ?? issue.expected
    if (value === undefined) return `${what} is missing; give ${wanted}`
    const is = kindOf(value)
    return `${what} must be ${wanted}, not ${is === 'object' || is === 'array' ? KINDS[is] : shown(value)}`
  }
  if (issue.code === 'invalid_value' && (value === undefined || issue.message.startsWith('Invalid'))) {
    const values = issue.values.map((one) => JSON.stringify(one))
    if (value === undefined) return `${what} is missing; give ${values.join(' or ')}`
    return `${shown(value)} is not ${values.length > 1 ? 'one of ' : ''}${values.join(', ')}`
  }
  if (issue.code === 'invalid_key') return `${what} is ${issue.issues[0]?.message ?? issue.message}`
  if (issue.code === 'unrecognized_keys')
    return `${what} has fields that are not known: ${issue.keys.map((key) => `"${key}"`).join(', ')}`
  if (issue.code === 'too_big' && issue.message.startsWith('Too big'))
    return `${what} is more than ${String(issue.maximum)}${issue.origin === 'string' ? ' letters' : issue.origin === 'array' ? ' items' : ''}`
  if (issue.code === 'too_small' && issue.message.startsWith('Too small'))
    return `${what} is less than ${String(issue.minimum)}`
  if (value === undefined) return `${what} is missing: ${issue.message}`
  if (typeof value === 'object' && value !== null) return issue.message
  return /^(not|longer) /.test(issue.message)
    ? `${shown(value)} is ${issue.message}`
    : `${shown(value)} is not accepted: ${issue.message}`
}
