import { lagCalendarOf } from '../../plan/lagCalendar.ts'
import { linkPhrase } from '../../words/links.ts'
import { limitsFinish, State } from '../../network/network.ts'
import { linkLimit } from '../../schedule/forwardPass.ts'
import type { ReviewContext } from '../context.ts'
import type { Check } from '../check.ts'
import { removeLink } from '../repairChanges.ts'

/** Links that another path guarantees whatever the durations are. */
export const impliedLink: Check = {
  id: 'implied-link',
  topic: 'Logic',
  title: 'Redundant links',
  clean: 'no redundant links',
  why: 'Another path guarantees the same and more, so this link can never decide anything. It hides what does, and it makes the network look more tightly reasoned than it is.',
  of: 'links',
  bias: null,
  limit: null,
  find(context) {
    const { plan, network } = context
    const implied = new Set(context.implied)
    if (implied.size === 0) return []
    const position = new Map<string, number>()
    network.links.forEach((link, k) => implied.has(link.id) && position.set(link.id, k))
    return plan.links
      .filter((link) => implied.has(link.id))
      .map((link) => {
        const isNeeded = decidesNow(context, position.get(link.id)!)
        const [from, to] = [link.from, link.to].map((id) => network.activities[network.indexOf.get(id)!])
        const lengths = context.lengths(lagCalendarOf(plan.project, link, from, to))
        const phrase = linkPhrase(link, context.code(link.from), lengths)
        return {
          place: link.id,
          facts: { link: `${context.code(link.to)} ${phrase}`, decides: isNeeded ? 'now' : 'never' },
          severity: 'caution' as const,
          activities: [link.from, link.to],
          links: [link.id],
          message: isNeeded
            ? `${context.code(link.to)} ${phrase} is redundant but for a date or an actual that has cut the other path`
            : `${context.code(link.to)} ${phrase} is redundant: another path holds it`,
          value: 1,
          threshold: 0,
          ...(isNeeded ? { without: removeLink(link.id) } : { effect: { kind: 'none' as const } }),
          // Where the other path is cut, this link is what holds the work.
          repairs: isNeeded
            ? []
            : [{ kind: 'remove-link', label: 'Remove the link', change: removeLink(link.id) }],
        }
      })
  },
}

/** Whether a link asks for more than everything else that limits its successor: dates and actuals on the other path can cut it. */
const decidesNow = ({ network, schedule }: ReviewContext, k: number): boolean => {
  const to = network.linkTo[k]!
  if (network.state[to] === State.Finished || network.isMirror) return false
  const calendar = network.calendar[to]!
  const ask = (link: number): number =>
    calendar.countBefore(linkLimit(network, schedule.early, link)) -
    (limitsFinish(network.linkCode[link]!) ? network.remaining[to]! : 0)
  const own = ask(k)
  if (own <= calendar.countBefore(network.startFloor[to]!)) return false
  for (let other = network.inStart[to]!; other < network.inStart[to + 1]!; other++)
    if (other !== k && ask(other) >= own) return false
  return true
}
