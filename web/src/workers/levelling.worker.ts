import {
  CalendarError,
  driversOf,
  exceededBy,
  LevelError,
  levelSteps,
  movedDays,
  type Levelled,
} from '@geodrome/core'
import type {
  LevellingReply,
  LevellingRequest,
  LevellingResult,
  LevellingStart,
} from './levellingProtocol.ts'

const say = (reply: LevellingReply): void => self.postMessage(reply)
/** As long as a step may keep a wish to stop waiting. */
const TURN_MS = 60

let isStopped = false
const run = async ({ plan, options }: Pick<LevellingStart, 'plan' | 'options'>): Promise<void> => {
  isStopped = false
  const steps = levelSteps(plan, options)
  let turnedAt = performance.now()
  for (let next = steps.next(); ; next = steps.next(isStopped)) {
    if (next.done) return say({ kind: 'levelled', result: resultOf(next.value) })
    if (performance.now() - turnedAt < TURN_MS) continue
    say({ kind: 'progress', ...next.value })
    await new Promise((resolve) => setTimeout(resolve))
    turnedAt = performance.now()
  }
}

const resultOf = (made: Levelled): LevellingResult => {
  const { before, after, proven } = made
  const moved: LevellingResult['moved'][number][] = []
  for (let i = 0; i < before.start.length; i++) {
    const waits = made.waited.get(i) ?? []
    if (before.start[i] === after.start[i] && before.finish[i] === after.finish[i] && waits.length === 0)
      continue
    moved.push({
      activity: before.network.activities[i]!.id,
      from: before.start[i]!,
      start: after.start[i]!,
      finish: after.finish[i]!,
      days: movedDays(made, i),
      waits: waits.map(({ resource, from, to, heldBy }) => ({
        resource: made.resources[resource]!.id,
        from,
        to,
        heldBy: heldBy.map((j) => before.network.activities[j]!.id),
      })),
      pieces: made.pieces.get(i)?.length ?? 1,
      hasJointHours: before.network.activities[i]!.calendar !== after.network.activities[i]!.calendar,
      behind: driversOf(after, i).map((j) => after.network.activities[j]!.id),
    })
  }
  return {
    changes: made.changes,
    finishBefore: before.projectFinish,
    finish: after.projectFinish,
    proven: proven.finish,
    provenBy: proven.resource === null ? null : made.resources[proven.resource]!.id,
    because: proven.because && {
      ...proven.because,
      activities: proven.because.activities.map((i) => before.network.activities[i]!.id),
    },
    isSearched: proven.isSearched,
    foundBy: made.foundBy,
    moved: moved.sort((a, b) => b.days - a.days || a.start - b.start),
    unresolved: made.unresolved.map(({ activity, resource, why }) => ({
      activity: before.network.activities[activity]!.id,
      resource: made.resources[resource]!.id,
      why,
    })),
    without: made.without,
    exceeded: exceededBy(made).map(({ activity, limit, finish }) => ({
      activity: activity === null ? null : before.network.activities[activity]!.id,
      limit,
      finish,
    })),
    hasOverload: made.waited.size > 0 || made.unresolved.length > 0,
  }
}

self.onmessage = ({ data }: MessageEvent<LevellingRequest>): void => {
  if (data.kind === 'stop') {
    isStopped = true
    return
  }
  run(data).catch((error: unknown) => {
    if (error instanceof LevelError || error instanceof CalendarError)
      return say({ kind: 'failed', message: error.message })
    throw error
  })
}
