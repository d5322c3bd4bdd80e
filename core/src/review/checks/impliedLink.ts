import { lagCalendarOf } from '../../plan/lagCalendar.ts'
import { linkPhrase } from '../../words/links.ts'
import type { Check } from '../check.ts'
import { removeLink } from '../mend.ts'

/** Links that another path guarantees whatever the durations are. */
export const impliedLink: Check = {
  id: 'implied-link',
  topic: 'Logic',
  title: 'Links already implied by others',
  clean: 'no implied links',
  why: 'Another path guarantees the same and more, so this link can never decide anything. It hides what does, and it makes the network look more tightly reasoned than it is.',
  of: 'links',
  bias: null,
  limit: null,
  find(context) {
    const { plan, network } = context
    const implied = new Set(context.implied)
    if (implied.size === 0) return []
    return plan.links
      .filter((link) => implied.has(link.id))
      .map((link) => {
        const [from, to] = [link.from, link.to].map((id) => network.activities[network.indexOf.get(id)!])
        const lengths = context.lengths(lagCalendarOf(plan.project, link, from, to))
        const phrase = linkPhrase(link, context.code(link.from), lengths)
        return {
          place: link.id,
          facts: { link: `${context.code(link.to)} ${phrase}` },
          severity: 'caution' as const,
          activities: [link.from, link.to],
          links: [link.id],
          message: `${context.code(link.to)} ${phrase} holds by another path anyway`,
          value: 1,
          threshold: 0,
          effect: { kind: 'none' as const },
          repairs: [{ kind: 'remove-link', label: 'Remove the link', change: removeLink(link.id) }],
        }
      })
  },
}
