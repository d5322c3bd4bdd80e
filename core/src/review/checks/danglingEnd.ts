import { countsFromStart, Kind, limitsFinish, type Network } from '../../network/network.ts'
import type { Check, Found, Repair } from '../check.ts'
import type { ReviewContext } from '../context.ts'
import { addLink } from '../repairChanges.ts'

/** Ties the loose edge to the same neighbour. */
const linkEnd = (context: ReviewContext, from: string, to: string, end: 'start' | 'finish'): Repair => {
  const other = context.code(end === 'start' ? from : to)
  return {
    kind: 'link',
    label: end === 'start' ? `Let it start with ${other} too` : `Let ${other} finish with it too`,
    change: addLink(context.newLink(from, to, end === 'start' ? 'SS' : 'FF')),
  }
}

/** Work with one edge that no link holds: its links in only limit the finish, or its links out only count from the start. */
export const danglingEnd: Check = {
  id: 'dangling-end',
  topic: 'Logic',
  title: 'Dangling starts and finishes',
  clean: 'no dangling ends',
  why: 'Where only starts are tied, the work can take for ever and nothing behind it moves; where only finishes are tied, nothing says when it can begin. The activity looks linked, but half of it is open.',
  of: 'activities',
  bias: { direction: 'too early', because: 'longer work behind a loose finish moves nothing' },
  limit: null,
  find(context) {
    const { network } = context
    const found: Found[] = []
    network.activities.forEach((activity, i) => {
      if (network.kind[i] !== Kind.Work || context.isFinished(i)) return
      const { id, code } = activity
      const into = looseStart(network, i)
      if (into !== null && !activity.constraints.some((c) => c.edge === 'start'))
        found.push(
          finding(
            context,
            i,
            'start',
            `${code} may start at any time: its links in hold its finish only`,
            network.links[into]!.id,
            linkEnd(context, network.links[into]!.from, id, 'start'),
          ),
        )
      const out = looseFinish(network, i)
      if (out !== null)
        found.push(
          finding(
            context,
            i,
            'finish',
            `${code} may finish at any time: its links out count from its start only`,
            network.links[out]!.id,
            linkEnd(context, id, network.links[out]!.to, 'finish'),
          ),
        )
    })
    return found
  },
}

/** The last link into an activity of which none holds the start; null where one does or there are none. */
const looseStart = (network: Network, i: number): number | null => {
  const [from, to] = [network.inStart[i]!, network.inStart[i + 1]!]
  for (let k = from; k < to; k++) if (!limitsFinish(network.linkCode[k]!)) return null
  return to > from ? to - 1 : null
}

/** The last link out of an activity of which none counts from the finish; null where one does or there are none. */
const looseFinish = (network: Network, i: number): number | null => {
  const [from, to] = [network.outStart[i]!, network.outStart[i + 1]!]
  for (let o = from; o < to; o++) if (!countsFromStart(network.linkCode[network.outLink[o]!]!)) return null
  return to > from ? network.outLink[to - 1]! : null
}

const finding = (
  context: ReviewContext,
  i: number,
  end: 'start' | 'finish',
  message: string,
  link: string,
  repair: Repair,
): Found => {
  const { id } = context.network.activities[i]!
  return {
    place: `${id} ${end}`,
    facts: { end, links: linksAt(context, i, end) },
    severity: 'moves-answer',
    activities: [id],
    links: [link],
    message,
    value: 1,
    threshold: 0,
    effect: { kind: 'hides', minutes: 0 },
    repairs: [repair],
  }
}

const linksAt = ({ network }: ReviewContext, i: number, end: 'start' | 'finish'): string => {
  const words: string[] = []
  if (end === 'start')
    for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++)
      words.push(`${network.links[k]!.type} from ${network.activities[network.linkFrom[k]!]!.code}`)
  else
    for (let o = network.outStart[i]!; o < network.outStart[i + 1]!; o++) {
      const k = network.outLink[o]!
      words.push(`${network.links[k]!.type} to ${network.activities[network.linkTo[k]!]!.code}`)
    }
  return words.join(', ')
}
