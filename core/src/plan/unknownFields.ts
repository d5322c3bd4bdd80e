import { pointer, type PlanIssue } from './issue.ts'
import { planFileSchema } from './schema.ts'

const LISTS = [
  'calendars',
  'groups',
  'activities',
  'links',
  'resources',
  'assignments',
  'risks',
  'damages',
  'spreads',
  'factors',
  'weather',
] as const

/** Fields that this version does not know: kept on a round trip, and reported so that a misspelt one is noticed. */
export const unknownFields = (json: unknown): PlanIssue[] => {
  const file = json as Record<string, unknown>
  const shape = planFileSchema.shape
  const notes: PlanIssue[] = []
  const report = (value: unknown, known: object, path: readonly (string | number)[]): void => {
    if (value === null || typeof value !== 'object' || notes.length >= 200) return
    for (const key of Object.keys(value))
      if (!Object.hasOwn(known, key))
        notes.push({
          pointer: pointer(...path, key),
          code: 'shape',
          message: `unknown field "${key}"; kept as it is`,
        })
  }
  report(file, shape, [])
  report(file.project, shape.project.shape, ['project'])
  for (const list of LISTS) {
    const known = shape[list].unwrap().element.shape
    const items = Array.isArray(file[list]) ? (file[list] as unknown[]) : []
    items.forEach((item, i) => report(item, known, [list, i]))
  }
  return notes
}
