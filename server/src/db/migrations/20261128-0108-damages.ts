import { listLifted } from '../listLifted.ts'

/** Damages become a list of items; until now they were kept with the plan as they came. */
export const { up, down } = listLifted('damages', 'd')
