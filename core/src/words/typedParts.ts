import type { WorkPart } from '../plan/breakDown.ts'
import type { DayLengths } from '../plan/durations.ts'
import { readDuration } from './durations.ts'

export type TypedParts =
  { readonly ok: true; readonly parts: readonly WorkPart[] } | { readonly ok: false; readonly why: string }

/** Reads the parts of some work, one a line: "Fit and weld plates, 6d". Empty lines count for nothing. */
export const readParts = (text: string, lengths: DayLengths): TypedParts => {
  const parts: WorkPart[] = []
  for (const line of text
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean)) {
    const at = Math.max(line.lastIndexOf(','), line.lastIndexOf('\t'))
    const name = line.slice(0, Math.max(0, at)).trim()
    if (name === '')
      return {
        ok: false,
        why: `“${line}”: write a name, a comma, a duration, for example: Fit and weld plates, 6d`,
      }
    const read = readDuration(line.slice(at + 1).trim(), lengths)
    if (!read.ok) return { ok: false, why: `“${name}”: ${read.why}` }
    if (read.minutes === 0) return { ok: false, why: `“${name}” takes no time; a part has a duration` }
    parts.push({ name, duration: read.minutes })
  }
  return parts.length < 2
    ? { ok: false, why: 'write two parts or more, each on a line of its own' }
    : { ok: true, parts }
}
