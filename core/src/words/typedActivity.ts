import { newLink } from '../plan/links.ts'
import { lagCalendarOf } from '../plan/lagCalendar.ts'
import { lengthsOf } from '../plan/durations.ts'
import type { Change, Item } from '../plan/change.ts'
import { freshId, newActivity } from '../plan/edits.ts'
import { groupAfter } from '../plan/outline.ts'
import type { Plan } from '../plan/schema.ts'
import { durationWords, readDuration } from './durations.ts'
import { linkPhrase } from './links.ts'
import { findByCodeOrName, readLinks } from './typedLinks.ts'

/** What was understood of an activity, or of a heading for some, typed as one line, as the change that adds it; or why not. */
export type TypedActivity =
  | {
      readonly ok: true
      readonly kind: 'activity' | 'group'
      readonly change: Change
      readonly id: string
      readonly words: string
    }
  | { readonly ok: false; readonly why: string }

/** "Papers:" is a heading. */
const HEADING = /^(.*[^\s:])\s*:+\s*$/

const LINK = /^(after|with|starts\s+with|ends\s+with)\s/i
const LAG = /(later|earlier)$/i

/** "after H10, 2d later" is one part although it holds a comma. */
const partsOf = (text: string): string[] => {
  const parts: string[] = []
  for (const raw of text.split(/[\t;,]/)) {
    const part = raw.trim()
    if (part === '') continue
    const last = parts.at(-1)
    if (last !== undefined && LAG.test(part) && LINK.test(last)) parts[parts.length - 1] = `${last}, ${part}`
    else parts.push(part)
  }
  return parts
}

/**
 * Reads a line such as "Lay new lining, 5d, after K30, on Double shift, by Mason" or "Kiln ready, milestone, after K60":
 * the name first, then in any order a duration, links as sentences, a calendar, an owner. "Papers:" is a heading: a group.
 * @param place - where the new activity goes
 * @param random - for ids
 */
export const readActivityLine = (
  plan: Plan,
  text: string,
  place: { readonly after: string | null; readonly group: string | null },
  random: () => number,
): TypedActivity => {
  const title = HEADING.exec(text.trim())?.[1]
  if (title !== undefined) return heading(plan, title, place, random)
  const [name, ...rest] = partsOf(text)
  if (name === undefined)
    return { ok: false, why: 'write a name, for example: Lay new lining, 5d, after K30' }
  const fields: Item = { name }
  const find = findByCodeOrName(plan.activities)
  const sentences: string[] = []
  let duration: string | null = null
  for (const part of rest) {
    if (/^milestone( at (the |a )?start)?$/i.test(part))
      Object.assign(fields, {
        kind: 'milestone',
        edge: /start/i.test(part) ? 'start' : 'finish',
        confirmed: true,
      })
    else if (/^hammock$/i.test(part)) fields.kind = 'hammock'
    else if (/^by\s+/i.test(part)) fields.owner = part.replace(/^by\s+/i, '')
    else if (/^on\s+/i.test(part)) {
      const wanted = part.replace(/^on\s+/i, '').toLowerCase()
      const calendar =
        wanted === 'clock' || wanted === 'round the clock'
          ? 'clock'
          : plan.calendars.find((c) => c.name.toLowerCase() === wanted || c.id === wanted)?.id
      if (!calendar)
        return {
          ok: false,
          why: `there is no calendar “${wanted}”; there are ${plan.calendars.map((c) => c.name || c.id).join(', ')}`,
        }
      fields.calendar = calendar
    } else if (LINK.test(part) || (sentences.length > 0 && find(part).length > 0)) {
      // "after K30, K40": what follows a link by its code alone is one more.
      sentences.push(part)
    } else if (/^\d/.test(part) && duration === null) duration = part
    else
      return {
        ok: false,
        why: `“${part}” is not a duration, a link (“after K30”), a calendar (“on …”) or an owner (“by …”)`,
      }
  }
  const calendarId = (fields.calendar as string | undefined) ?? plan.project.calendar
  const words: string[] = [name]
  if (duration !== null) {
    const read = readDuration(duration, lengthsOf(plan, calendarId))
    if (!read.ok) return read
    Object.assign(fields, { duration: read.minutes, confirmed: true })
    words.push(durationWords(read.minutes, lengthsOf(plan, calendarId)))
  } else if (fields.kind === undefined) words.push('duration not confirmed')
  else words.push(String(fields.kind))

  const add = newActivity(plan, place, fields, random) as Extract<Change, { kind: 'add' }>
  const id = add.item.id as string
  const changes: Change[] = [add]
  const taken = [...plan.links]
  const typed = readLinks(sentences.join('; '), find)
  if (!typed.ok) return typed
  for (const { to: from, type, lag } of typed.links) {
    const lengths = lengthsOf(
      plan,
      lagCalendarOf(plan.project, { lagOn: null }, from, {
        calendar: (fields.calendar as string | undefined) ?? null,
      }),
    )
    const minutes = lag(lengths)
    if (!minutes.ok) return minutes
    const item = newLink({
      id: freshId(taken, 'l', random),
      from: from.id,
      to: id,
      type,
      lag: minutes.minutes,
    })
    taken.push(item)
    changes.push({ kind: 'add', list: 'links', item, before: null })
    words.push(linkPhrase({ type, lag: minutes.minutes }, from.code, lengths))
  }
  return {
    ok: true,
    kind: 'activity',
    id,
    change: changes.length === 1 ? add : { kind: 'all', changes },
    words: `${String(add.item.code)} ${words.join(', ')}`,
  }
}

/** A group that stands after the one in which the place is, or after it. */
const heading = (
  plan: Plan,
  name: string,
  place: { readonly after: string | null; readonly group: string | null },
  random: () => number,
): TypedActivity => {
  const { change, group } = groupAfter(plan, name, place, random)
  return {
    ok: true,
    kind: 'group',
    id: group,
    change,
    words: `heading “${name}”; what is typed next stands under it`,
  }
}
