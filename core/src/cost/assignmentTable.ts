import type { Plan } from '../plan/schema.ts'

/** Assignments as numbers, in the order of the plan. */
export interface AssignmentTable {
  /** Positions of what they are of. */
  readonly activity: Int32Array
  readonly resource: Int32Array
  readonly amount: Float64Array
}
interface Known {
  readonly indexOf: ReadonlyMap<string, number>
  readonly resources: Plan['resources']
  readonly table: AssignmentTable
}
/** Plans are never written over: as long as the lists are the same ones, so is what is where. */
const known = new WeakMap<Plan['assignments'], Known>()

/** @param indexOf - positions of the activities, by id: those of the network */
export const assignmentTable = (
  { assignments, resources }: Plan,
  indexOf: ReadonlyMap<string, number>,
): AssignmentTable => {
  const last = known.get(assignments)
  if (last && last.indexOf === indexOf && last.resources === resources) return last.table
  const positions = new Map(resources.map(({ id }, r) => [id, r]))
  const table = {
    activity: Int32Array.from(assignments, ({ activity }) => indexOf.get(activity)!),
    resource: Int32Array.from(assignments, ({ resource }) => positions.get(resource)!),
    amount: Float64Array.from(assignments, ({ amount }) => amount),
  }
  known.set(assignments, { indexOf, resources, table })
  return table
}
