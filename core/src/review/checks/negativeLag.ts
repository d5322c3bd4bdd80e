import { lagCalendarOf } from '../../plan/lagCalendar.ts'
import { durationWords } from '../../words/durations.ts'
import type { Check } from '../check.ts'
import { setLink } from '../repairChanges.ts'

/** Leads: links with a negative lag, which start work on the strength of a date that is still a forecast. */
export const negativeLag: Check = {
  id: 'negative-lag',
  topic: 'Logic',
  title: 'Leads (negative lag)',
  clean: 'no leads',
  why: 'A lead starts work before the event it counts from has happened. When that event slips, the work has already begun; a forecast cannot see it.',
  of: 'links',
  bias: { direction: 'too early', because: 'work is begun on the strength of a date that has not come' },
  limit: null,
  find(context) {
    const { plan, network } = context
    return plan.links
      .filter((link) => link.lag < 0)
      .map((link) => {
        const [from, to] = [link.from, link.to].map((id) => network.activities[network.indexOf.get(id)!])
        const lengths = context.lengths(lagCalendarOf(plan.project, link, from, to))
        const without = setLink(link.id, { lag: 0 })
        return {
          place: link.id,
          facts: { lead: durationWords(-link.lag, lengths), type: link.type },
          severity: 'caution' as const,
          activities: [link.from, link.to],
          links: [link.id],
          message: `${to!.code} starts on a lead of ${durationWords(-link.lag, lengths)} from ${from!.code} (${link.type})`,
          value: link.lag,
          threshold: 0,
          without,
          repairs: [
            { kind: 'remove-lead', label: 'Take the lead away', change: without },
            // What a lead usually means: the second may run beside the last part of the first.
            ...(link.type === 'FS' && from!.duration > -link.lag
              ? [
                  {
                    kind: 'from-start',
                    label: `Say it from the start: ${durationWords(from!.duration + link.lag, lengths)} after ${from!.code} starts`,
                    change: setLink(link.id, { type: 'SS', lag: from!.duration + link.lag }),
                  },
                ]
              : []),
          ],
        }
      })
  },
}
