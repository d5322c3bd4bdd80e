import { lengthsOf } from '../plan/durations.ts'
import { Kind } from '../network/network.ts'
import type { CriticalChain } from './criticalChain.ts'

interface Fed {
  readonly activities: readonly number[]
  /** Focused days of its activities and lags. */
  readonly days: number
  readonly squares: number
}

/**
 * The longest focused path of work off the chain into each activity off it, over all links and hand-overs; of equal ones the one with the
 * greater Σ Δ², then smaller ids (semantics2.md section 16, step 4).
 */
export const feedingCourses = ({
  base,
  isOnChain,
  cut,
  plan,
}: CriticalChain): ((i: number) => readonly number[]) => {
  const { network } = base
  const dayOf = new Map<string, number>()
  const daysOn = (calendar: string, minutes: number): number => {
    let day = dayOf.get(calendar)
    if (day === undefined) dayOf.set(calendar, (day = lengthsOf(plan, calendar).dayMinutes))
    return minutes / day
  }
  const ids = ({ activities }: Fed): string => activities.map((i) => network.activities[i]!.id).join('\n')
  const isLonger = (a: Fed, b: Fed): boolean => {
    if (Math.abs(a.days - b.days) > 1e-9) return a.days > b.days
    if (Math.abs(a.squares - b.squares) > 1e-9) return a.squares > b.squares
    return ids(a) < ids(b)
  }
  const known = new Map<number, Fed>()
  for (const i of network.order) {
    if (isOnChain[i] === 1 || network.kind[i] === Kind.Hammock) continue
    let best: Fed = { activities: [], days: 0, squares: 0 }
    for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++) {
      const before = known.get(network.linkFrom[k]!)
      if (!before) continue
      const lag = daysOn(network.linkCalendar[k]!.id, network.linkLag[k]!)
      const through = { ...before, days: before.days + lag }
      if (best.activities.length === 0 || isLonger(through, best)) best = through
    }
    known.set(i, {
      activities: [...best.activities, i],
      days: best.days + daysOn(network.calendar[i]!.id, network.remaining[i]!),
      squares: best.squares + cut[i]! ** 2,
    })
  }
  return (i) => known.get(i)?.activities ?? [i]
}
