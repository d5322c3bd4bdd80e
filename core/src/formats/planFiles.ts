/** A file that a plan is written as. */
export interface PlanFileFormat {
  /** Behind the name of the file. */
  readonly ending: string
  /** Media type. */
  readonly type: string
  /** What it is, to whom it is offered. */
  readonly words: string
}

/** All of them by name; a new one is added here, and how it is written in writePlanFile. */
export const PLAN_FILES = {
  json: {
    ending: 'geodrome.json',
    type: 'application/json',
    words: 'The plan file: everything, for this program and those that read its schema',
  },
  xlsx: {
    ending: 'xlsx',
    type: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    words: 'Workbook: activities with their dates, links, people, plant and money',
  },
  csv: {
    ending: 'csv',
    type: 'text/csv',
    words: 'CSV: activities with their dates',
  },
  ics: {
    ending: 'ics',
    type: 'text/calendar',
    words: 'iCalendar: activities, milestones and days off for a diary',
  },
  graphml: {
    ending: 'graphml',
    type: 'application/graphml+xml',
    words: 'GraphML: the network for programs that draw or measure graphs',
  },
  dot: {
    ending: 'dot',
    type: 'text/vnd.graphviz',
    words: 'DOT: the network as text for Graphviz',
  },
} satisfies Readonly<Record<string, PlanFileFormat>>
export type PlanFileName = keyof typeof PLAN_FILES

/** Whether there is a format of that name. */
export const isPlanFile = (name: string): name is PlanFileName => Object.hasOwn(PLAN_FILES, name)
