import { schedule, type Plan } from '@geodrome/core'
import { useCalendars } from '../../../composables/useCalendars.ts'
import type { ScheduleView } from '../../../workers/scheduleProtocol.ts'
import { cellContext, type CellContext } from '../cellContext.ts'

/** What cells are drawn from, of a plan on its dates. */
export const contextOf = (plan: Plan): CellContext =>
  cellContext(
    plan,
    { ...schedule(plan), drives: new Uint8Array(plan.links.length) } as never as ScheduleView,
    useCalendars(() => plan).value!,
    false,
  )
