import type { Plan } from '../plan/schema.ts'
import { schedule } from '../schedule/schedule.ts'
import { writePlan } from '../plan/writePlan.ts'
import { scheduleCsv } from './csv.ts'
import { networkDot } from './dot.ts'
import { networkGraphMl } from './graphMl.ts'
import { planCalendar } from './iCalendar.ts'
import type { PlanFileName } from './planFiles.ts'
import { planSheets } from './planSheets.ts'
import { writeWorkbook } from './workbook.ts'

/** The plan as a file of a format. @throws CalendarError */
export const writePlanFile = (name: PlanFileName, plan: Plan): string | Promise<Uint8Array> => {
  switch (name) {
    case 'json':
      return writePlan(plan)
    case 'xlsx':
      return writeWorkbook(planSheets(schedule(plan)))
    case 'csv':
      return scheduleCsv(schedule(plan))
    case 'ics':
      return planCalendar(schedule(plan))
    case 'graphml':
      return networkGraphMl(schedule(plan))
    case 'dot':
      return networkDot(schedule(plan))
  }
}
