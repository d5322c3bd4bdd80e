import { Kind } from '../../network/network.ts'
import type { Check, Found, Repair } from '../check.ts'
import type { ReviewContext } from '../context.ts'
import { linkPhrase } from '../../words/links.ts'
import type { Link } from '../../plan/schema.ts'
import { likelyNeighbour } from '../likelyLink.ts'
import { addLink } from '../repairChanges.ts'

/** The link that was taken away here, the likely one, the declared start or finish of the network; or declare it one. */
const repairsOf = (context: ReviewContext, i: number, end: 'start' | 'finish'): Repair[] => {
  const { plan, network } = context
  const { id } = network.activities[i]!
  const { project } = plan
  const declared = end === 'start' ? project.opens : project.closes
  const likely = likelyNeighbour(context, i, end)
  const others = [
    likely === null ? undefined : network.activities[likely]!.id,
    end === 'start' ? declared[0] : declared.at(-1),
  ]
  const repairs: Repair[] = putBack(context, id, end).map((link) => {
    const other = end === 'start' ? link.from : link.to
    const phrase = linkPhrase(link, context.code(link.from), context.lengths(project.calendar))
    const words = end === 'start' ? phrase : `${context.code(other)} ${phrase}`
    return { kind: 'put-back', label: `Put the link back: ${words}`, change: addLink(link) }
  })
  for (const other of new Set(others)) {
    if (other === undefined || other === id) continue
    const [from, to] = end === 'start' ? [other, id] : [id, other]
    const label =
      end === 'start' ? `Let it wait for ${context.code(other)}` : `Let ${context.code(other)} wait for it`
    const kind = other === others[0] ? 'link-neighbour' : 'link'
    repairs.push({ kind, label, change: addLink(context.newLink(from, to, 'FS')) })
  }
  repairs.push(
    end === 'start'
      ? {
          kind: 'declare',
          label: 'Declare it a start of the network',
          change: { kind: 'project', set: { opens: [...project.opens, id] } },
        }
      : {
          kind: 'declare',
          label: 'Declare it a finish of the network',
          change: { kind: 'project', set: { closes: [...project.closes, id] } },
        },
  )
  return repairs
}

/** Links at this end that were removed lately, the last first, where both ends are still there. */
const putBack = (
  { plan, network, removedLinks }: ReviewContext,
  id: string,
  end: 'start' | 'finish',
): Link[] => {
  const mine = removedLinks.filter((link) => (end === 'start' ? link.to : link.from) === id)
  if (mine.length === 0) return []
  const taken = new Set(plan.links.map((link) => link.id))
  return mine
    .filter((link) => !taken.has(link.id) && network.indexOf.has(link.from) && network.indexOf.has(link.to))
    .toReversed()
}

const WHY = {
  start:
    'Nothing pushes an activity without a predecessor: what comes late before it never reaches it, so its dates stay early and its float too small.',
  finish:
    'Nothing waits for an activity without a successor: a delay there stops nowhere, so its float and every forecast are too good.',
}

/** Activities without a predecessor or successor that the project does not declare as a start or finish of the network. */
export const openEnd: Check = {
  id: 'open-end',
  topic: 'Logic',
  title: 'Open ends',
  clean: 'no open ends but the declared ones',
  why: 'Nothing pushes an activity without a predecessor, and nothing waits for one without a successor: a delay there stops nowhere, so its float and every forecast are too good.',
  of: 'activities',
  bias: {
    direction: 'too early',
    because: 'a delay of work that nothing waits for never reaches the finish',
  },
  limit: null,
  find(context) {
    const { network, plan } = context
    const opens = new Set(plan.project.opens)
    const closes = new Set(plan.project.closes)
    const found: Found[] = []
    const add = (i: number, end: 'start' | 'finish'): void => {
      const { id, code } = network.activities[i]!
      found.push({
        place: `${id} ${end}`,
        facts: { end },
        severity: 'moves-answer',
        activities: [id],
        links: [],
        message: `${code} has no ${end === 'start' ? 'predecessor' : 'successor'}`,
        why: WHY[end],
        value: 1,
        threshold: 0,
        effect: { kind: 'hides', minutes: 0 },
        repairs: repairsOf(context, i, end),
      })
    }
    network.activities.forEach(({ id }, i) => {
      if (network.kind[i] === Kind.Hammock || context.isFinished(i)) return
      if (network.inStart[i] === network.inStart[i + 1] && !opens.has(id)) add(i, 'start')
      if (network.outStart[i] === network.outStart[i + 1] && !closes.has(id)) add(i, 'finish')
    })
    return found
  },
}
