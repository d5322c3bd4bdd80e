import { pointer, type PlanIssue } from './issue.ts'

const FORBIDDEN = new Set(['__proto__', 'constructor', 'prototype'])
const MAX_DEPTH = 60

/**
 * Looks through untrusted JSON for names that could reach an object's prototype and for depth beyond reason,
 * before any schema touches it. Iterative, so that depth cannot exhaust the stack.
 */
export const hostileNames = (json: unknown, maxDepth = MAX_DEPTH): PlanIssue[] => {
  const issues: PlanIssue[] = []
  const stack: { value: unknown; path: readonly (string | number)[] }[] = [{ value: json, path: [] }]
  while (stack.length > 0 && issues.length < 20) {
    const { value, path } = stack.pop()!
    if (value === null || typeof value !== 'object') continue
    if (path.length > maxDepth) {
      issues.push({
        pointer: pointer(...path.slice(0, 8)),
        code: 'too-large',
        message: `nested deeper than ${maxDepth} levels`,
      })
      continue
    }
    for (const key of Object.keys(value)) {
      if (FORBIDDEN.has(key))
        issues.push({
          pointer: pointer(...path, key),
          code: 'forbidden-name',
          message: `the name "${key}" is not allowed in a plan; remove it`,
        })
      const child = (value as Record<string, unknown>)[key]
      if (child !== null && typeof child === 'object') stack.push({ value: child, path: [...path, key] })
    }
  }
  return issues
}
