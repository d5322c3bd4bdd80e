import { counted, lagCalendarOf, lagPhrase, PART, shortDurationWords, type ArrowMap } from '@geodrome/core'
import type { CellContext } from '../rows/columns.ts'
import type { MapNodeData } from './mapGraph.ts'

/** What stands on an arrow: a code and a name above it, how long below. */
export interface ArrowWords {
  readonly code: string
  readonly name: string
  readonly below: string
  readonly strong: boolean
}
const NO_WORDS: ArrowWords = { code: '', name: '', below: '', strong: false }

/** As much of a name as stands on an arrow beside its code. */
const LETTERS = 25
const shortened = (name: string, code: string): string =>
  name.length + code.length > LETTERS ? `${name.slice(0, LETTERS - code.length - 1).trimEnd()}…` : name

/** The words on each arrow of a map: those of work say who it is and how long, those of links what they are. */
export const arrowWords = (
  { arrows }: Pick<ArrowMap, 'arrows'>,
  unitOf: ReadonlyMap<string, MapNodeData>,
  context: Pick<CellContext, 'plan' | 'view' | 'calendars' | 'activity'>,
): ArrowWords[] => {
  const linkOf = new Map(context.plan.links.map((link) => [link.id, link]))
  return arrows.map(({ kind, activity, link: id }) => {
    if (kind === 'work') {
      const unit = unitOf.get(activity!)
      return unit ? workWords(unit, context) : NO_WORDS
    }
    if (id?.startsWith(PART)) return { ...NO_WORDS, name: 'part of it' }
    const link = id === null ? undefined : linkOf.get(id)
    if (!link) return NO_WORDS
    const { plan, calendars } = context
    const lengths = calendars.lengths(
      lagCalendarOf(plan.project, link, context.activity(link.from), context.activity(link.to)),
    )
    return { ...NO_WORDS, code: link.type, below: lagPhrase(link.lag, lengths).replace(/^, /, '') }
  })
}

const workWords = (
  unit: MapNodeData,
  { plan, view, calendars }: Pick<CellContext, 'plan' | 'view' | 'calendars'>,
): ArrowWords => {
  const strong = unit.members.some((i) => view.onLongestPath[i] === 1)
  if (unit.kind === 'group') {
    const group = plan.groups.find((one) => one.id === unit.id)
    const code = group?.code ?? ''
    const below = counted(unit.members.length, 'activity')
    return { code, name: shortened(group?.name ?? '', code), below, strong }
  }
  const activity = plan.activities[unit.members[0]!]
  if (!activity) return NO_WORDS
  const { code, kind, duration } = activity
  const below =
    kind === 'milestone' ? 'milestone' : shortDurationWords(duration, calendars.lengthsOf(activity))
  return { code, name: shortened(activity.name, code), below, strong }
}
