/** The stages in working order; the rail shows them so. */
export const STAGES = [
  { name: 'setup', label: 'Set-up' },
  { name: 'calendars', label: 'Calendars' },
  { name: 'network', label: 'Network' },
  { name: 'review', label: 'Review' },
  { name: 'forecast', label: 'Forecast' },
  { name: 'scenarios', label: 'Scenarios' },
  { name: 'handover', label: 'Handover' },
] as const
export type StageName = (typeof STAGES)[number]['name']
