import { formatInstant } from '../time/instant.ts'
import { lengthsOf } from '../plan/durations.ts'
import type { ChainSettings, Plan } from '../plan/schema.ts'
import { criticalChain } from './criticalChain.ts'
import { chainSettings } from './focused.ts'
import { alertsOf, insertBuffers, type Buffer } from './insertBuffers.ts'

/** The shape is that of the command line: sizes and lengths in days of the project calendar. */
export interface ChainReport {
  /** Ids of the activities with work, first to last. */
  readonly chain: readonly string[]
  readonly handovers: readonly { readonly from: string; readonly to: string; readonly resource: string }[]
  readonly buffers: readonly {
    readonly id: string
    readonly kind: Buffer['kind']
    readonly size: number
    readonly start: string
    readonly finish: string
    readonly after: readonly string[]
    readonly before: readonly string[]
  }[]
  readonly alerts: readonly { readonly activity: string; readonly resource: string; readonly at: string }[]
  readonly gaps: readonly { readonly before: string; readonly length: number; readonly cause: string }[]
  /** End of the chain's last work. */
  readonly finish: string
  /** End of the project buffer. */
  readonly promised: string
  readonly activities: Readonly<
    Record<
      string,
      { readonly start: string; readonly finish: string; readonly focused: number; readonly onChain: boolean }
    >
  >
}

/** Days that people are called before their work on the chain, unless the plan says otherwise. */
const LEAD_DAYS = 2

/**
 * The critical chain of a plan with its buffers (semantics2.md section 16, steps 1 to 6).
 * @param asked - instead of what the plan says
 * @throws LevelError for a plan scheduled backward; CalendarError
 * @see Goldratt 1997, "Critical Chain"; Leach 2000, "Critical Chain Project Management"
 */
export const chainReport = (plan: Plan, asked: Partial<ChainSettings> = {}): ChainReport => {
  const settings = { ...chainSettings(plan), ...asked }
  const chain = criticalChain(plan, settings)
  const buffered = insertBuffers(plan, settings, chain)
  const { dayMinutes } = lengthsOf(plan, plan.project.calendar)
  const { network } = chain.base
  const idOf = (i: number): string => plan.activities[i]!.id
  return {
    chain: chain.chain.activities.filter((i) => network.remaining[i]! > 0).map(idOf),
    handovers: chain.handOvers.map(({ from, to, resource }) => ({
      from: idOf(from),
      to: idOf(to),
      resource,
    })),
    buffers: buffered.buffers.map(({ id, kind, days, start, finish, after, before }) => ({
      id,
      kind,
      size: days,
      start: formatInstant(start),
      finish: formatInstant(finish),
      after: after.map(idOf),
      before: before.map(idOf),
    })),
    alerts: alertsOf(buffered, settings.lead ?? LEAD_DAYS * dayMinutes).map(({ activity, resource, at }) => ({
      activity: idOf(activity),
      resource,
      at: formatInstant(at),
    })),
    gaps: buffered.gaps.map(({ before, minutes, cause }) => ({
      before: idOf(before),
      length: minutes / dayMinutes,
      cause,
    })),
    finish: formatInstant(buffered.end),
    promised: formatInstant(buffered.promised),
    activities: Object.fromEntries(
      plan.activities.map(({ id }, i) => [
        id,
        {
          start: formatInstant(buffered.start[i]!),
          finish: formatInstant(buffered.finish[i]!),
          focused: network.remaining[i]! / dayMinutes,
          onChain: chain.isOnChain[i] === 1,
        },
      ]),
    ),
  }
}
