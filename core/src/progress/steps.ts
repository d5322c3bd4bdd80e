import type { Activity } from '../plan/schema.ts'

/** A line of an activity's checklist. */
export interface Step {
  readonly text: string
  readonly done: boolean
  /** How much it counts beside the others. */
  readonly weight: number
}

/** The lines of a checklist; what another program wrote as a bare text is a step that is not done, and a weight left out is 1. */
export const stepsOf = ({ checklist }: Pick<Activity, 'checklist'>): readonly Step[] =>
  checklist.map((line): Step => {
    const { text, done, weight } = (
      typeof line === 'object' && line !== null ? line : { text: line }
    ) as Record<string, unknown>
    return {
      text: typeof text === 'string' ? text : typeof text === 'number' ? String(text) : '',
      done: done === true,
      weight: typeof weight === 'number' && Number.isFinite(weight) && weight >= 0 ? weight : 1,
    }
  })

/** Percent done by weighted steps, to the nearest whole; null without a step that counts. */
export const percentBySteps = (steps: readonly Step[]): number | null => {
  const all = steps.reduce((sum, { weight }) => sum + weight, 0)
  if (all === 0) return null
  return Math.round((steps.reduce((sum, { weight, done }) => sum + (done ? weight : 0), 0) / all) * 100)
}
