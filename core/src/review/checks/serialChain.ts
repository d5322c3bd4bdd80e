import type { Activity, Link } from '../../plan/schema.ts'
import type { Check, Found } from '../check.ts'
import type { ReviewContext } from '../context.ts'

/** The one link that ties two neighbours of the list, and nothing else to either side, as a series makes it; null where there is more to it. */
const seriesLink = ({ network }: ReviewContext, i: number, j: number): Link | null => {
  if (
    network.outStart[i + 1]! - network.outStart[i]! !== 1 ||
    network.inStart[j + 1]! - network.inStart[j]! !== 1
  )
    return null
  const k = network.inStart[j]!
  const link = network.links[k]!
  const isUntouched = link.type === 'FS' && link.lag === 0 && link.reason === '' && link.nature === 'hard'
  return network.linkFrom[k] === i && isUntouched ? link : null
}

/** Rows that were linked one after the other in one go, and that nobody has looked at since. */
export const serialChain: Check = {
  id: 'serial-chain',
  topic: 'Logic',
  title: 'Long chains in list order',
  clean: 'no long chains in list order',
  why: 'Rows linked in the order of the list are a guess: the order of writing is not the order of work. Much of it could often run beside the rest, and the finish would come earlier.',
  of: 'activities',
  bias: { direction: 'too late', because: 'work that could run beside other work stands behind it' },
  limit: {
    default: 8,
    unit: 'count',
    label: 'neighbours in a plain chain, more than',
    min: 3,
    max: 1000,
    reason: 'up to eight steps one after the other are common in a work card',
  },
  find(context) {
    const { network, limits } = context
    const limit = limits['serial-chain']!
    const found: Found[] = []
    let chain: Activity[] = []
    let links: Link[] = []
    const close = (): void => {
      if (chain.length > limit) found.push(finding(chain, links, limit))
      chain = []
      links = []
    }
    for (let i = 0; i + 1 < network.activities.length; i++) {
      const link = context.isFinished(i + 1) ? null : seriesLink(context, i, i + 1)
      if (!link) close()
      else {
        if (chain.length === 0) chain.push(network.activities[i]!)
        chain.push(network.activities[i + 1]!)
        links.push(link)
      }
    }
    close()
    return found
  },
}

const finding = (chain: readonly Activity[], links: readonly Link[], limit: number): Found => ({
  place: chain[0]!.id,
  facts: { chain: `${chain.length} from ${chain[0]!.code} to ${chain.at(-1)!.code}` },
  severity: 'caution',
  activities: chain.map((a) => a.id),
  links: links.map((l) => l.id),
  message: `${chain[0]!.code} to ${chain.at(-1)!.code}: ${chain.length} rows linked in the order of the list`,
  value: chain.length,
  threshold: limit,
  effect: { kind: 'unknown' },
  repairs: [],
})
