import { Kind } from '../../network/network.ts'
import type { Check, Found, Repair } from '../check.ts'
import type { ReviewContext } from '../context.ts'
import { addLink } from '../repairChanges.ts'

/** Tie it to the declared start or finish of the network, or declare it one. */
const repairsOf = (context: ReviewContext, id: string, end: 'start' | 'finish'): Repair[] => {
  const { project } = context.plan
  const declared = end === 'start' ? project.opens : project.closes
  const other = end === 'start' ? declared[0] : declared.at(-1)
  const repairs: Repair[] = []
  if (other !== undefined && other !== id) {
    const [from, to] = end === 'start' ? [other, id] : [id, other]
    const label =
      end === 'start' ? `Let it wait for ${context.code(other)}` : `Let ${context.code(other)} wait for it`
    repairs.push({ kind: 'link', label, change: addLink(context.newLink(from, to, 'FS')) })
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
    const add = (id: string, code: string, end: 'start' | 'finish'): void => {
      found.push({
        place: `${id} ${end}`,
        facts: { end },
        severity: 'moves-answer',
        activities: [id],
        links: [],
        message: end === 'start' ? `${code} waits for nothing` : `Nothing waits for ${code}`,
        value: 1,
        threshold: 0,
        effect: { kind: 'unknown' },
        repairs: repairsOf(context, id, end),
      })
    }
    network.activities.forEach(({ id, code }, i) => {
      if (network.kind[i] === Kind.Hammock || context.isFinished(i)) return
      if (network.inStart[i] === network.inStart[i + 1] && !opens.has(id)) add(id, code, 'start')
      if (network.outStart[i] === network.outStart[i + 1] && !closes.has(id)) add(id, code, 'finish')
    })
    return found
  },
}
