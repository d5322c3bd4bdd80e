import { counted, weekWords, WEEKDAYS, type CalendarHours } from '@geodrome/core'

/** When a calendar works, in a line. @param parent - the name of the calendar that it takes its hours from where it has none */
export const hoursWords = ({ week, windows, seasons }: CalendarHours, parent: string | null): string => {
  if (week && WEEKDAYS.some((day) => (week[day]?.length ?? 0) > 0)) return weekWords(week)
  if (windows.length > 0) return counted(windows.length, 'window')
  if (seasons[0]) return `${seasons[0].name ?? 'season'}: ${weekWords(seasons[0].week)}`
  return parent && !week ? `hours of ${parent}` : 'no hours'
}
