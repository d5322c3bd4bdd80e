import { limitsFinish, State } from '../../network/network.ts'
import { linkLimit } from '../../schedule/forwardPass.ts'
import { formatInstant } from '../../time/instant.ts'
import { instantWords } from '../../words/dates.ts'
import type { Change } from '../../plan/change.ts'
import type { Check, Found, Repair } from '../check.ts'
import type { ReviewContext } from '../context.ts'
import { removeLink, setActivity, setLink } from '../repairChanges.ts'

/** Work that started although what it waits for had not happened. */
export const outOfSequence: Check = {
  id: 'out-of-sequence',
  topic: 'Progress',
  title: 'Started before what it waits for',
  clean: 'no work out of sequence',
  lacks: (plan) => (plan.project.statusDate === null ? 'no status date' : null),
  why: 'The logic says that this could not have begun. Either the link is wrong, or an actual date is missing, or the work really runs ahead; the rest of it is planned differently in each case.',
  of: 'activities',
  bias: {
    direction: 'either way',
    because: 'the rest of the work is held by a link that the work itself did not keep',
  },
  limit: null,
  find(context) {
    const { network, schedule, plan } = context
    const found: Found[] = []
    network.activities.forEach((activity, i) => {
      if (network.state[i] !== State.Started) return
      for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++) {
        const from = network.linkFrom[k]!
        if (limitsFinish(network.linkCode[k]!)) continue
        const limit = linkLimit(network, schedule.early, k)
        if (limit <= network.actualStart[i]!) continue
        const before = network.activities[from]!
        found.push({
          place: network.links[k]!.id,
          facts: {
            'its rest': plan.project.outOfSequence === 'hold' ? 'is held to the link' : 'follows the work',
            started: instantWords(network.actualStart[i]!, 'start'),
            link: `${network.links[k]!.type} from ${before.code}`,
            [`${before.code} then`]: ['not started', 'started', 'finished'][network.state[from]!]!,
          },
          severity: 'caution',
          activities: [activity.id, before.id],
          links: [network.links[k]!.id],
          message: `${activity.code} started ${instantWords(network.actualStart[i]!, 'start')}, before ${before.code} allowed it (${instantWords(limit, 'finish')})`,
          value: 1,
          threshold: 0,
          // The other reading: with "hold" what following the work would give, with "follow" what holding would.
          without: {
            kind: 'project',
            set: { outOfSequence: plan.project.outOfSequence === 'hold' ? 'follow' : 'hold' },
          },
          repairs: repairsOf(context, i, k),
        })
      }
    })
    return found
  },
}

const repairsOf = ({ network }: ReviewContext, i: number, k: number): Repair[] => {
  const link = network.links[k]!
  const from = network.linkFrom[k]!
  const before = network.activities[from]!
  const repairs: Repair[] = []
  if (network.state[from] !== State.Finished && link.type === 'FS') {
    const at = formatInstant(network.actualStart[i]!)
    const progress = { ...before.progress, actualStart: before.progress.actualStart ?? at, actualFinish: at }
    if (before.progress.actualStart === null || before.progress.actualStart <= at)
      repairs.push({
        kind: 'actual-finish',
        label: `${before.code} was finished by then: give it that actual finish`,
        change: setActivity(before.id, { progress }),
      })
  }
  const overlapping: Change = setLink(link.id, { type: 'FF', lag: 0 })
  if (link.type === 'FS')
    repairs.push({
      kind: 'finish-only',
      label: `Only its finish waits for ${before.code} (FF)`,
      change: overlapping,
    })
  repairs.push({
    kind: 'remove-link',
    label: 'It does not wait: remove the link',
    change: removeLink(link.id),
  })
  return repairs
}
