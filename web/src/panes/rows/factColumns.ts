import {
  assign,
  assignmentWords,
  chainSettings,
  durationWords,
  estimateWords,
  focusedDuration,
  isChainWork,
  readAssignments,
  readDuration,
  readEstimate,
  setDuration,
  shortDurationWords,
  stepsOf,
  type Activity,
} from '@geodrome/core'
import { same, setActivity, type CellContext, type Column, type Understood } from './cellContext.ts'
import { daysOf } from './floatDays.ts'

const at = ({ plan }: CellContext, index: number): Activity => plan.activities[index]!

/** A column over a text field of the activity. */
const textColumn = (
  id: 'name' | 'notes' | 'owner',
  rest: Pick<Column, 'title' | 'explains' | 'width' | 'holds'> & { offers?: Column['offers'] },
): Column => ({
  id,
  align: 'left',
  ...rest,
  text: (context, i) => at(context, i)[id] ?? '',
  draft: (context, i) => at(context, i)[id] ?? '',
  read: (context, i, text) => {
    const value = text.trim()
    if (value === (at(context, i)[id] ?? '')) return same
    return {
      ok: true,
      words: value || 'none',
      change: setActivity(at(context, i), { [id]: id === 'owner' && value === '' ? null : value }),
    }
  },
})

const focusedIn = (context: CellContext, index: number): number =>
  focusedDuration(at(context, index), chainSettings(context.plan).cut)

const used = (values: Iterable<string | null>): string[] =>
  [...new Set([...values].filter((v): v is string => v !== null && v !== ''))].sort()

const named = (context: CellContext, text: string): string | null | undefined => {
  const wanted = text.trim().toLowerCase()
  if (wanted === '' || wanted === 'the project’s') return null
  if (wanted === 'clock' || wanted === 'round the clock') return 'clock'
  const fits = context.plan.calendars.filter(
    (c) => c.name.toLowerCase().startsWith(wanted) || c.id.toLowerCase() === wanted,
  )
  return (fits.find((c) => c.name.toLowerCase() === wanted) ?? fits[0])?.id
}

const tagWords = (tags: Record<string, unknown>): string =>
  Object.entries(tags)
    .map(([key, value]) => `${key}: ${String(value)}`)
    .join('; ')

/** What people say of an activity. */
export const FACT_COLUMNS: readonly Column[] = [
  {
    id: 'number',
    title: 'No.',
    explains:
      'Place in the outline. It follows the order of the rows by itself; the code does not change with it.',
    width: 54,
    align: 'left',
    holds: 3,
    text: ({ plan, numbers }, i) => numbers.get(plan.activities[i]!.id) ?? '',
    sortBy: (_, i) => i,
  },
  {
    id: 'code',
    title: 'Code',
    explains: 'What people call the activity by; changing it changes nothing else.',
    width: 48,
    align: 'left',
    holds: 9,
    text: (context, i) => at(context, i).code,
    draft: (context, i) => at(context, i).code,
    read: (context, i, text): Understood => {
      const code = text.trim()
      const activity = at(context, i)
      if (code === '') return { ok: false, why: 'a code is needed' }
      if (/\s/.test(code)) return { ok: false, why: 'a code has no spaces' }
      if (code === activity.code) return same
      const other = context.byCode.get(code.toLowerCase())
      if (other && other.id !== activity.id)
        return { ok: false, why: `${code} is ${other.name || 'another activity'}` }
      return { ok: true, words: code, change: setActivity(activity, { code }) }
    },
  },
  textColumn('name', {
    title: 'Activity',
    explains: 'What is done, or for a milestone, what has been achieved.',
    width: null,
    holds: 10,
  }),
  {
    id: 'duration',
    title: 'Duration',
    explains: 'Working time of the activity’s own calendar. A dotted underline: not confirmed yet.',
    width: 60,
    align: 'right',
    holds: 8,
    text: (context, i) => {
      const activity = at(context, i)
      const lengths = context.calendars.lengthsOf(activity)
      if (activity.kind === 'milestone') return '—'
      if (activity.kind === 'hammock') {
        const calendar = context.calendars.of(activity)
        return durationWords(
          calendar.countBefore(context.view.finish[i]!) - calendar.countBefore(context.view.start[i]!),
          lengths,
        )
      }
      return shortDurationWords(activity.duration, lengths)
    },
    sortBy: (context, i) => daysOf(context, i, at(context, i).duration),
    draft: (context, i) =>
      at(context, i).kind === 'work'
        ? durationWords(at(context, i).duration, context.calendars.lengthsOf(at(context, i)))
        : '',
    read: (context, i, text): Understood => {
      const activity = at(context, i)
      if (activity.kind !== 'work') return { ok: false, why: `a ${activity.kind} has no duration of its own` }
      const lengths = context.calendars.lengthsOf(activity)
      const read = readDuration(text, lengths)
      if (!read.ok) return read
      if (read.minutes < 0) return { ok: false, why: 'a duration cannot be negative' }
      if (/^0+$/.test(text.trim())) return pointOf(context, activity)
      const words = `${durationWords(read.minutes, lengths)}, ${context.calendars.name(context.calendars.idOf(activity))}`
      if (read.minutes === activity.duration && activity.confirmed) return { ok: true, words, change: null }
      return { ok: true, words, change: setDuration(activity, read.minutes) }
    },
  },
  {
    id: 'kind',
    title: 'Kind',
    explains: 'Work, a milestone at a start or at a finish, or a hammock that hangs between others.',
    width: 84,
    align: 'left',
    holds: 2,
    text: (context, i) => kindWords(at(context, i)),
    draft: (context, i) => kindWords(at(context, i)),
    offers: () => KINDS.map(([words]) => words),
    read: (context, i, text): Understood => {
      const wanted = text.trim().toLowerCase()
      const found = wanted === '' ? undefined : KINDS.find(([words]) => words.startsWith(wanted))
      if (!found) return { ok: false, why: `write ${KINDS.map(([words]) => words).join(', ')}` }
      const [words, set] = found
      if (words === kindWords(at(context, i))) return same
      return { ok: true, words, change: setActivity(at(context, i), { ...set }) }
    },
  },
  {
    id: 'calendar',
    title: 'Calendar',
    explains: 'The hours in which it can be worked. Empty: the project’s calendar.',
    width: 104,
    align: 'left',
    holds: 4,
    text: (context, i) => {
      const { calendar } = at(context, i)
      return calendar === null ? '' : context.calendars.name(calendar)
    },
    sortBy: (context, i) => context.calendars.name(context.calendars.idOf(at(context, i))),
    draft: (context, i) =>
      at(context, i).calendar === null ? '' : context.calendars.name(at(context, i).calendar!),
    offers: ({ plan }) => [...plan.calendars.map((c) => c.name || c.id), 'Round the clock'],
    read: (context, i, text): Understood => {
      const calendar = named(context, text)
      if (calendar === undefined)
        return {
          ok: false,
          why: `there is no calendar “${text.trim()}”; there are ${context.plan.calendars.map((c) => c.name || c.id).join(', ')}`,
        }
      if (calendar === at(context, i).calendar) return same
      const activity = at(context, i)
      const next = calendar ?? context.plan.project.calendar
      const [was, is] = [context.calendars.lengthsOf(activity), context.calendars.lengths(next)]
      // The work stays what it is, in working minutes; where its days have another length, that is said.
      const work =
        activity.kind === 'work' && activity.duration > 0 && was.dayMinutes !== is.dayMinutes
          ? `, the work stays: ${durationWords(activity.duration, was)} are ${durationWords(activity.duration, is)} there`
          : ''
      return {
        ok: true,
        words: (calendar === null ? 'the project’s calendar' : context.calendars.name(calendar)) + work,
        change: setActivity(activity, { calendar }),
      }
    },
  },
  textColumn('owner', {
    title: 'Owner',
    explains: 'Who answers for it.',
    width: 90,
    holds: 3,
    offers: ({ plan }) => used(plan.activities.map((a) => a.owner)),
  }),
  {
    id: 'resources',
    title: 'Resources',
    explains:
      'People, plant, material and fees that it has, written “2 welders, crane”. What they cost and how many there are is said in Resources.',
    width: 120,
    align: 'left',
    holds: 3,
    text: ({ plan }, i) => assignmentWords(plan, plan.activities[i]!.id),
    draft: ({ plan }, i) => assignmentWords(plan, plan.activities[i]!.id),
    offers: ({ plan }) => plan.resources.map(({ code, name }) => name || code),
    read: (context, i, text): Understood => {
      const { plan } = context
      const activity = at(context, i)
      if (activity.kind === 'hammock' && text.trim() !== '')
        return { ok: false, why: 'a hammock has no people of its own: it costs by the day' }
      const read = readAssignments(plan, text)
      if (!read.ok) return read
      const change = assign(plan, [activity.id], read.wanted, Math.random)
      if (change.kind === 'all' && change.changes.length === 0) return same
      const byId = new Map(plan.resources.map((resource) => [resource.id, resource]))
      const words = read.wanted
        .map(({ resource, amount }) => `${amount} ${byId.get(resource)!.name || byId.get(resource)!.code}`)
        .join(', ')
      return { ok: true, words: words || 'no resources', change }
    },
  },
  {
    id: 'tags',
    title: 'Tags',
    explains: 'Free tags, written “area: dock; trade: paint”. The list can be grouped by any of them.',
    width: 130,
    align: 'left',
    holds: 2,
    text: (context, i) => tagWords(at(context, i).tags),
    draft: (context, i) => tagWords(at(context, i).tags),
    read: (context, i, text): Understood => {
      const tags: Record<string, string> = {}
      for (const part of text
        .split(';')
        .map((p) => p.trim())
        .filter(Boolean)) {
        const cut = part.indexOf(':')
        if (cut <= 0 || part.slice(cut + 1).trim() === '')
          return { ok: false, why: `“${part}” has no value; write for example area: dock` }
        tags[part.slice(0, cut).trim()] = part.slice(cut + 1).trim()
      }
      if (tagWords(tags) === tagWords(at(context, i).tags)) return same
      return { ok: true, words: tagWords(tags) || 'no tags', change: setActivity(at(context, i), { tags }) }
    },
  },
  {
    id: 'estimate',
    title: 'Low / likely / high',
    explains: 'Three-point estimate of the duration, written “9 / 11 / 19”.',
    width: 120,
    align: 'right',
    holds: 2,
    text: (context, i) => estimateText(context, i),
    sortBy: (context, i) => at(context, i).estimate?.likely ?? -1,
    draft: (context, i) => estimateText(context, i),
    read: (context, i, text): Understood => {
      const activity = at(context, i)
      if (text.trim() === '')
        return activity.estimate
          ? { ok: true, words: 'no estimate', change: setActivity(activity, { estimate: null }) }
          : same
      const lengths = context.calendars.lengthsOf(activity)
      const read = readEstimate(text, lengths)
      if (!read.ok) return read
      const estimate = { ...(activity.estimate ?? { shape: 'pert', ends: 'extremes' }), ...read.range }
      return {
        ok: true,
        words: estimateWords(read.range, lengths),
        change: setActivity(activity, { estimate }),
      }
    },
  },
  {
    id: 'focused',
    title: 'Focused',
    explains:
      'What it takes without a reserve of its own: the critical chain counts on it. In brackets: what the cut of the chain leaves of the duration.',
    width: 72,
    align: 'right',
    holds: 1,
    text: (context, i) => {
      const activity = at(context, i)
      if (!isChainWork(activity)) return ''
      const words = shortDurationWords(focusedIn(context, i), context.calendars.lengthsOf(activity))
      return activity.focused === null ? `(${words})` : words
    },
    sortBy: (context, i) => (isChainWork(at(context, i)) ? daysOf(context, i, focusedIn(context, i)) : -1),
    draft: (context, i) => {
      const activity = at(context, i)
      return activity.focused === null
        ? ''
        : durationWords(activity.focused, context.calendars.lengthsOf(activity))
    },
    read: (context, i, text): Understood => {
      const activity = at(context, i)
      if (activity.kind !== 'work') return { ok: false, why: `a ${activity.kind} takes no time of its own` }
      const lengths = context.calendars.lengthsOf(activity)
      if (text.trim() === '') {
        if (activity.focused === null) return same
        const left = focusedDuration({ ...activity, focused: null }, chainSettings(context.plan).cut)
        return {
          ok: true,
          words: `${durationWords(left, lengths)}, what the cut leaves`,
          change: setActivity(activity, { focused: null }),
        }
      }
      const read = readDuration(text, lengths)
      if (!read.ok) return read
      if (read.minutes <= 0) return { ok: false, why: 'a focused duration takes at least a minute' }
      if (read.minutes === activity.focused) return same
      const words = durationWords(read.minutes, lengths)
      const isLonger = read.minutes > activity.duration
      return {
        ok: true,
        words: isLonger ? `${words}, longer than its duration: it leaves no reserve` : words,
        change: setActivity(activity, { focused: read.minutes }),
      }
    },
  },
  {
    id: 'checklist',
    title: 'Checklist',
    explains: 'Lines ticked off of all inside the activity; written in the Lens.',
    width: 72,
    align: 'right',
    holds: 1,
    text: (context, i) => {
      const lines = stepsOf(at(context, i))
      return lines.length === 0 ? '' : `${lines.filter((l) => l.done).length} of ${lines.length}`
    },
  },
  textColumn('notes', { title: 'Notes', explains: 'Free text.', width: 150, holds: 1 }),
]

/** A bare 0 is an event, as in a list that is pasted; "0 h" stays work that takes no time. */
const pointOf = (context: CellContext, activity: Activity): Understood => {
  const edge = context.linksIn.has(activity.id) ? 'finish' : 'start'
  const [words, set] = KINDS.find(([name]) => name === `milestone at a ${edge}`)!
  return {
    ok: true,
    words: `${words}; the other end is a matter of its kind, “0 h” stays work`,
    change: { kind: 'set', list: 'activities', key: activity.id, set },
  }
}

const KINDS: readonly (readonly [words: string, set: Record<string, unknown>])[] = [
  ['work', { kind: 'work' }],
  [
    'milestone at a finish',
    { kind: 'milestone', edge: 'finish', duration: 0, estimate: null, confirmed: true },
  ],
  [
    'milestone at a start',
    { kind: 'milestone', edge: 'start', duration: 0, estimate: null, confirmed: true },
  ],
  ['hammock', { kind: 'hammock', duration: 0, estimate: null, confirmed: true }],
]
const kindWords = ({ kind, edge }: Pick<Activity, 'kind' | 'edge'>): string =>
  kind === 'milestone' ? (edge === 'start' ? 'milestone at a start' : 'milestone at a finish') : kind

const estimateText = (context: CellContext, i: number): string => {
  const { estimate } = at(context, i)
  return estimate ? estimateWords(estimate, context.calendars.lengthsOf(at(context, i))) : ''
}
