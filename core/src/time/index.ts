// Instants
export * from './instant.ts'
export { formatClock, parseShift, type Shift } from './shifts.ts'
// Calendars
export * from './workingDays.ts'
export * from './calendar.ts'
export * from './arithmetic.ts'
export { jointSpans } from './jointSpans.ts'
export { PlanCalendars } from './planCalendars.ts'
