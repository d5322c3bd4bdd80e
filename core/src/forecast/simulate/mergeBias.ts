import type { MergeBias } from '../../wire/index.ts'
import type { Spot } from '../../time/calendar.ts'
import { formatInstant } from '../../time/instant.ts'
import { Kind, limitsFinish, State } from '../../network/network.ts'
import { lengthsOf } from '../../plan/durations.ts'
import { linkDrives } from '../../schedule/drivingLinks.ts'
import { ABSENT, heldByStartLinks, isPinned, linkLimit } from '../../schedule/forwardPass.ts'
import { expectedDurations } from '../pert.ts'
import { scheduleNetwork } from '../../schedule/schedule.ts'
import { compileNetwork } from '../../network/compileNetwork.ts'
import { drawAgain } from './iterate.ts'
import type { IterationTable } from './iterationTable.ts'
import type { SimulationModel } from './model.ts'

/** Activities that are told, those with the most first. */
const MOST_TOLD = 20
/** Less, in days of the project calendar, is none. */
const LEAST = 0.005

/**
 * Merge bias (semantics2.md section 14): where several ways come together, the mean of the latest is later than the latest of the means.
 * Of each activity with two links or more into its start: its mean start, the latest of the mean starts that each link alone would
 * give, and how often each decides. Links into finishes ask for a finish and are left out; nothing is told of a plan scheduled backward, whose
 * starts follow from what comes after.
 * @returns those that have some, the most first
 * @see Clark 1961, "The Greatest of a Finite Set of Random Variables", Oper. Res. 9(2)
 */
export const mergeBias = (model: SimulationModel, table: IterationTable): MergeBias[] => {
  const { network, plan } = model
  if (plan.project.direction === 'backward') return []
  const merges = plan.activities.flatMap((_, i) => {
    if (network.kind[i] === Kind.Hammock || network.state[i] !== State.NotStarted) return []
    if (isPinned(network, i) || !heldByStartLinks(network, i)) return []
    const links = range(network.inStart[i]!, network.inStart[i + 1]!).filter(
      (k) => !limitsFinish(network.linkCode[k]!) && network.linkFrom[k]! < plan.activities.length,
    )
    return links.length < 2
      ? []
      : [{ i, links, start: 0, limits: links.map(() => 0), drives: links.map(() => 0) }]
  })
  // Means are of working time on the project's calendar, as its days are: of instants they would fall into nights.
  const calendar = model.planned.network.calendars.get(plan.project.calendar)
  const spot: Spot = { count: 0, at: 0, isWorking: false }
  drawAgain(model, 0, table.iterations, (_, remaining, { early }) => {
    for (const merge of merges) {
      merge.start += calendar.countBefore(early.start[merge.i]!)
      merge.links.forEach((k, l) => {
        if (remaining[network.linkFrom[k]!] === ABSENT) return
        // By this link alone it would start at the next working minute of its calendar, and not before its own dates.
        network.calendar[merge.i]!.firstStart(
          Math.max(linkLimit(network, early, k), network.startFloor[merge.i]!),
          spot,
        )
        merge.limits[l]! += calendar.countBefore(spot.at)
        if (linkDrives(network, remaining, early, k)) merge.drives[l]!++
      })
    }
  })
  const { dayMinutes } = lengthsOf(plan, plan.project.calendar)
  const dateAt = (count: number): string => formatInstant(calendar.minuteAt(Math.round(count)))
  const expected = expectedStarts(model)
  return merges
    .map(({ i, links, start, limits, drives }) => {
      const alone = Math.max(...limits) / table.iterations
      const mean = start / table.iterations
      return {
        activity: plan.activities[i]!.id,
        start: dateAt(mean),
        alone: dateAt(Math.min(mean, alone)),
        days: Math.max(0, (mean - alone) / dayMinutes),
        expected: formatInstant(expected[i]!),
        decides: links
          .map((k, l) => ({
            activity: plan.activities[network.linkFrom[k]!]!.id,
            share: drives[l]! / table.iterations,
          }))
          .sort((a, b) => b.share - a.share),
      }
    })
    .filter(({ days }) => days >= LEAST)
    .sort((a, b) => b.days - a.days)
    .slice(0, MOST_TOLD)
}

const range = (from: number, to: number): number[] => Array.from({ length: to - from }, (_, k) => from + k)

/** Starts on expected durations, as PERT has them. */
const expectedStarts = ({ plan }: SimulationModel): Int32Array => {
  const network = compileNetwork(plan)
  network.remaining.set(expectedDurations(plan, network).remaining)
  return scheduleNetwork(network).early.start
}
