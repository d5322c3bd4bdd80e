import { defineStore } from 'pinia'
import { useDocumentVisibility } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import {
  applyChange,
  applyUnchecked,
  describeChange,
  durationWords,
  editInScenario,
  keepingDays,
  PlanError,
  positionsOf,
  sayYearsOf,
  scenarioPlan,
  spanEnd,
  type Activity,
  type Change,
  type LoggedChange,
  type Plan,
  type Positions,
  lengthsOf,
  calendarOf,
} from '@geodrome/core'
import { api, ApiError, OfflineError, type JobProgress } from '../api/client.ts'
import { ScheduleClient } from '../workers/scheduleClient.ts'
import type { EditEffect, ListToRead, ScheduleView } from '../workers/scheduleProtocol.ts'
import { authorName, clientId } from './identity.ts'
import { readOutbox, writeOutbox, type PendingChange, type SetAside } from './outbox.ts'
import { painted } from './painted.ts'
import { undoStacks } from './undoStacks.ts'

/** What the last edit did, for the line under the Headline. */
export interface EditNews {
  readonly label: string
  readonly uid: string | null
  readonly author: string | null
  readonly finishBefore: number | null
  readonly finishAfter: number | null
  readonly effect: EditEffect | null
  /** The plan and its schedule before it. */
  readonly before: { readonly plan: Plan; readonly view: ScheduleView } | null
  /** What might have been meant as well: days kept where a calendar has longer ones. */
  readonly offer: { readonly label: string; readonly change: Change } | null
}

const NO_ACTIVITIES: readonly Activity[] = []
/** A tab left for a moment keeps its stream. */
const QUIET_AFTER_MS = 3000
const RETRY_MS = [500, 1000, 2000, 4000, 8000]

/** The days that an activity had before its calendar was changed. */
const offerOf = (before: Plan, change: Change): EditNews['offer'] => {
  const kept = keepingDays(before, change)
  if (!kept) return null
  const [first] = kept.activities
  const lengths = lengthsOf(before, calendarOf(before.project, first!))
  return {
    label: kept.activities.length === 1 ? `Keep ${durationWords(first!.duration, lengths)}` : 'Keep the days',
    change: kept.change,
  }
}

/** Who goes along with the plan in view: it comes whole, or changed by one change. */
export interface PlanFollower {
  load(plan: Plan): void
  change(change: Change): void
  closed(): void
}

/**
 * The open plan: what the server has confirmed, the changes waiting on top of it, the plan in view (with a scenario's changes
 * where one is open), its schedule, and the sending of changes. Every edit goes through {@link edit}.
 */
export const usePlanStore = defineStore('plan', () => {
  const planId = ref<string | null>(null)
  const status = ref<'closed' | 'opening' | 'open' | 'failed'>('closed')
  const failure = ref('')
  const confirmed = shallowRef<Plan | null>(null)
  const revision = ref(0)
  const log = shallowRef<readonly LoggedChange[]>([])
  const pending = shallowRef<readonly PendingChange[]>([])
  const setAside = shallowRef<readonly SetAside[]>([])
  const base = shallowRef<Plan | null>(null)
  const scenarioId = ref<string | null>(null)
  const plan = shallowRef<Plan | null>(null)
  const unfit = shallowRef<readonly { index: number; reason: string }[]>([])
  const view = shallowRef<ScheduleView | null>(null)
  /** The plan that `view` belongs to: the two change together. */
  const viewPlan = shallowRef<Plan | null>(null)
  /** Whether dates of this plan need their year. */
  const saysYears = ref(false)
  const refusal = ref('')
  const news = shallowRef<EditNews | null>(null)
  const storedAt = ref<Date | null>(null)
  const connection = ref<'online' | 'offline'>('online')
  const followers = new Set<PlanFollower>()
  const jobListeners = new Set<(progress: JobProgress) => void>()

  const visibility = useDocumentVisibility()
  let worker: ScheduleClient | null = null
  let events: EventSource | null = null
  let sending = false
  let retry = 0
  let retryTimer: ReturnType<typeof setTimeout> | undefined
  /** Called when the next schedule has come, in the same turn, so that one frame shows both. */
  const awaiting: (() => void)[] = []
  const whenScheduled = (come: () => void): void => void awaiting.push(come)
  /** News that waits for the schedule it belongs to. */
  let awaited: Pick<EditNews, 'label' | 'uid' | 'author' | 'offer'> | null = null

  /** Positions of activities by id; edits that neither add nor move one keep the index. */
  const byId = computed((): Positions => positionsOf(viewPlan.value?.activities ?? NO_ACTIVITIES))
  const stacks = computed(() => {
    const lines = [...log.value].map(({ uid, author, undoes }) => ({ uid, author, undoes }))
    return undoStacks([...lines, ...pending.value], authorName.value)
  })
  const activity = (id: string): Activity | undefined => viewPlan.value?.activities[byId.value.get(id) ?? -1]

  const open = async (id: string): Promise<void> => {
    if (planId.value === id && status.value === 'open') return
    close()
    planId.value = id
    status.value = 'opening'
    try {
      const [opened, outbox] = await Promise.all([api.open(id), readOutbox(id)])
      if (planId.value !== id) return
      confirmed.value = opened.plan
      revision.value = opened.revision
      log.value = [...opened.changes].reverse()
      const storedUids = new Set(opened.changes.map((c) => c.uid))
      pending.value = outbox.pending.filter((p) => !storedUids.has(p.uid))
      setAside.value = outbox.setAside
      worker = new ScheduleClient({
        scheduled: (reply) => {
          const before = view.value && viewPlan.value ? { plan: viewPlan.value, view: view.value } : null
          saysYears.value = sayYearsOf(
            reply.view.projectStart,
            spanEnd(reply.view.projectFinish, plan.value!.project.requiredFinish),
          )
          view.value = reply.view
          viewPlan.value = plan.value
          refusal.value = ''
          if (awaited) {
            news.value = {
              ...awaited,
              before,
              finishBefore: before?.view.projectFinish ?? null,
              finishAfter: reply.view.projectFinish,
              effect: reply.effect,
            }
            awaited = null
          }
          awaiting.splice(0).forEach((come) => come())
        },
        refused: (message) => {
          refusal.value = message
          awaiting.splice(0).forEach((come) => come())
        },
      })
      rebuild()
      listen(id)
      status.value = 'open'
      void flush()
    } catch (error) {
      status.value = 'failed'
      failure.value = (error as Error).message
    }
  }

  const close = (): void => {
    events?.close()
    worker?.stop()
    followers.forEach((follower) => follower.closed())
    clearTimeout(retryTimer)
    events = worker = null
    planId.value = null
    status.value = 'closed'
    confirmed.value = base.value = plan.value = viewPlan.value = view.value = null
    pending.value = setAside.value = log.value = []
    news.value = storedAt.value = null
    scenarioId.value = null
  }

  /** Puts the waiting changes on the confirmed plan; those that no longer fit are set aside, not lost. */
  const rebuild = (): void => {
    let at = confirmed.value!
    const kept: PendingChange[] = []
    for (const item of pending.value) {
      try {
        at = applyChange(at, item.change).plan
        kept.push(item)
      } catch (error) {
        if (!(error instanceof PlanError)) throw error
        putAside(item, error.issues[0]!.message, [])
      }
    }
    if (kept.length < pending.value.length) pending.value = kept
    base.value = at
    show(null)
  }

  /** Brings the plan in view up to date; a known change spares the worker the whole plan. */
  const show = (change: Change | null): void => {
    const id = scenarioId.value
    if (id !== null && !base.value!.scenarios.some((s) => s.id === id)) scenarioId.value = null
    if (scenarioId.value === null) {
      plan.value = base.value
      unfit.value = []
    } else {
      const seen = scenarioPlan(base.value!, scenarioId.value)
      plan.value = seen.plan
      unfit.value = seen.unfit
    }
    if (change && scenarioId.value === null) {
      worker?.change(change)
      followers.forEach((follower) => follower.change(change))
    } else {
      worker?.load(plan.value!)
      followers.forEach((follower) => follower.load(plan.value!))
    }
  }

  /** Goes along with the plan in view from now on. */
  const follow = (follower: PlanFollower): void => {
    followers.add(follower)
    if (plan.value) follower.load(plan.value)
  }

  const viewScenario = (id: string | null): void => {
    if (scenarioId.value === id) return
    scenarioId.value = id
    news.value = null
    show(null)
  }

  /** Applies a change that was made here and sends it. @throws PlanError if it breaks a rule; nothing is then changed */
  const commit = (made: Change, label: string, undoes: string | null): void => {
    // As it will be stored: nothing reactive of a form goes into the plan, the outbox or the worker.
    const change = JSON.parse(JSON.stringify(made)) as Change
    const applied = applyChange(base.value!, change)
    const item: PendingChange = {
      uid: crypto.randomUUID(),
      client: clientId,
      author: authorName.value,
      base: revision.value,
      change,
      undoes,
      label,
    }
    base.value = applied.plan
    pending.value = [...pending.value, item]
    awaited = {
      label,
      uid: item.uid,
      author: null,
      offer: undoes === null ? offerOf(plan.value!, change) : null,
    }
    const seen = painted(whenScheduled)
    show(change)
    // Sending costs what painting needs: it waits until what the change did is seen, a moment at the most. It is kept here already.
    void Promise.all([keep(), seen]).then(flush)
  }

  /**
   * The one way in which the interface edits: the plan, or the scenario in view.
   * @throws PlanError with what is wrong and how to mend it
   */
  const edit = (change: Change): void => {
    const label = describeChange(plan.value!, change)
    if (scenarioId.value === null) return commit(change, label, null)
    applyChange(plan.value!, change)
    commit(editInScenario(base.value!, scenarioId.value, change), label, null)
  }

  /** Edits the plan itself whatever scenario is in view: scenarios, project facts. */
  const editPlan = (change: Change): void => commit(change, describeChange(base.value!, change), null)

  const takeBack = (uid: string | undefined, word: 'Undone' | 'Done again' = 'Undone'): void => {
    if (uid === undefined) return
    const logged = log.value.find((entry) => entry.uid === uid)
    const inverse = logged?.inverse ?? inverseOfPending(uid)
    if (!inverse) return
    try {
      commit(inverse, `${word}: ${describeChange(base.value!, inverse)}`, uid)
    } catch (error) {
      if (!(error instanceof PlanError)) throw error
      refusal.value = `it cannot be taken back: ${error.issues[0]!.message}`
    }
  }
  const inverseOfPending = (uid: string): Change | null => {
    let at = confirmed.value!
    for (const item of pending.value) {
      const applied = applyUnchecked(at, item.change)
      if (item.uid === uid) return applied.inverse
      at = applied.plan
    }
    return null
  }
  /** Whether changes were made before those that are here. */
  const hasEarlier = computed(() => (log.value[0]?.revision ?? 2) > 2)
  /** Fetches a page of earlier changes: what is listed and can be undone has no end but the first. @returns whether there was one */
  const loadEarlier = async (): Promise<boolean> => {
    const id = planId.value
    const first = log.value[0]
    if (id === null || !first) return false
    try {
      const page = await api.changesBefore(id, first.revision)
      if (planId.value !== id || log.value[0] !== first) return false
      log.value = [...page.reverse(), ...log.value]
      return page.length > 0
    } catch (error) {
      if (!(error instanceof OfflineError)) throw error
      connection.value = 'offline'
      return false
    }
  }
  const undo = async (): Promise<void> => {
    while (stacks.value.undo.length === 0 && hasEarlier.value && (await loadEarlier()));
    takeBack(stacks.value.undo.at(-1), 'Undone')
  }
  const redo = (): void => takeBack(stacks.value.redo.at(-1), 'Done again')

  const keep = (): Promise<void> =>
    writeOutbox(planId.value!, { pending: pending.value, setAside: setAside.value })

  /** Sends waiting changes in order, one at a time; each counts as stored when the server says that it is committed. */
  const flush = async (): Promise<void> => {
    if (sending || status.value !== 'open') return
    sending = true
    const id = planId.value!
    try {
      while (pending.value.length > 0 && planId.value === id) {
        const item = pending.value[0]!
        const { uid, client, author, base: madeOn, change, undoes } = item
        try {
          const entry = await api.send(id, {
            uid,
            client,
            author,
            base: madeOn,
            ...(undoes === null ? { change } : { undoes }),
          })
          if (planId.value !== id) return
          connection.value = 'online'
          retry = 0
          storedAt.value = new Date(entry.at)
          await receive([entry])
        } catch (error) {
          if (error instanceof OfflineError || (error instanceof ApiError && error.status >= 500)) {
            connection.value = 'offline'
            clearTimeout(retryTimer)
            retryTimer = setTimeout(() => void flush(), RETRY_MS[Math.min(retry++, RETRY_MS.length - 1)])
            return
          }
          if (!(error instanceof ApiError)) throw error
          pending.value = pending.value.filter((p) => p.uid !== uid)
          await catchUp()
          putAside(item, error.message, error.theirs)
          rebuild()
          await keep()
        }
      }
    } finally {
      sending = false
    }
  }

  /** A stored change in words, described on the plan as it was before. */
  const describeLogged = (entry: LoggedChange): string => {
    try {
      return describeChange(applyUnchecked(confirmed.value!, entry.inverse).plan, entry.change)
    } catch (error) {
      if (!(error instanceof PlanError)) throw error
      return describeChange(confirmed.value!, entry.change)
    }
  }

  const putAside = (item: PendingChange, reason: string, theirs: readonly LoggedChange[]): void => {
    setAside.value = [
      ...setAside.value,
      { ...item, reason, theirs: theirs.map((t) => ({ author: t.author, label: describeLogged(t) })) },
    ]
  }

  /** Decides about a change that was refused: put on top of theirs, or dropped. */
  const resolveSetAside = (uid: string, how: 'mine' | 'theirs'): void => {
    const item = setAside.value.find((s) => s.uid === uid)
    if (!item) return
    setAside.value = setAside.value.filter((s) => s.uid !== uid)
    if (how === 'mine') {
      try {
        return commit(item.change, item.label, null)
      } catch (error) {
        if (!(error instanceof PlanError)) throw error
        setAside.value = [...setAside.value, { ...item, reason: error.issues[0]!.message }]
      }
    }
    void keep()
  }

  const catchUp = async (): Promise<void> => receive(await api.changesSince(planId.value!, revision.value))

  /** Takes stored changes in, in the order of their revisions; own ones leave the waiting list. */
  const receive = async (entries: readonly LoggedChange[]): Promise<void> => {
    /** Nothing of one's own waits: what others did comes on top of what is in view, and need not be built up again. */
    const isPlain = pending.value.length === 0
    const foreign: LoggedChange[] = []
    let isGap = false
    for (const entry of entries) {
      if (entry.revision <= revision.value) continue
      isGap = entry.revision > revision.value + 1
      if (isGap) break
      const own = pending.value[0]
      const wasFirst = own?.uid === entry.uid
      // What alone waited here, and was made of what is confirmed, is what the plan in view has on top of it: it need not be made again.
      const isMade =
        wasFirst && pending.value.length === 1 && own.undoes === null && own.base === revision.value
      confirmed.value = isMade ? base.value! : applyUnchecked(confirmed.value!, entry.change).plan
      revision.value = entry.revision
      log.value = [...log.value, entry]
      if (pending.value.some((p) => p.uid === entry.uid))
        pending.value = pending.value.filter((p) => p.uid !== entry.uid)
      if (!wasFirst) foreign.push(entry)
    }
    const last = foreign.at(-1)
    if (last) {
      awaited = {
        label: describeChange(base.value!, last.change),
        uid: null,
        author: last.author,
        offer: null,
      }
      if (pending.value.length === 0) base.value = confirmed.value
      if (isPlain)
        show(
          foreign.length === 1 ? last.change : { kind: 'all', changes: foreign.map((entry) => entry.change) },
        )
      else rebuild()
    }
    // What came between is fetched, once what came before it is in view.
    if (isGap) return catchUp()
    await keep()
  }

  const listen = (id: string): void => {
    if (visibility.value === 'hidden') return
    events = api.events(id, revision.value)
    let queue = Promise.resolve()
    events.addEventListener('change', ({ data }: MessageEvent<string>) => {
      queue = queue
        .then(() => (planId.value === id ? receive([JSON.parse(data) as LoggedChange]) : undefined))
        .catch(() => undefined)
    })
    events.addEventListener('job', ({ data }: MessageEvent<string>) => {
      const progress = JSON.parse(data) as JobProgress
      jobListeners.forEach((listener) => listener(progress))
    })
    events.onopen = () => {
      const wasOffline = connection.value === 'offline'
      connection.value = 'online'
      if (!wasOffline) return
      void catchUp().catch(() => undefined)
      void flush()
    }
    events.onerror = () => (connection.value = 'offline')
  }

  /**
   * A browser has six connections to a server, for all its tabs, and a stream takes one for good: a tab that is not looked at gives
   * its own back, and is told what it missed when it is seen again.
   */
  let quiet: ReturnType<typeof setTimeout> | undefined
  watch(visibility, (now) => {
    clearTimeout(quiet)
    if (now === 'visible') {
      if (!events && status.value === 'open') listen(planId.value!)
      return
    }
    quiet = setTimeout(() => {
      events?.close()
      events = null
    }, QUIET_AFTER_MS)
  })

  const onJob = (listener: (progress: JobProgress) => void): (() => void) => {
    jobListeners.add(listener)
    return () => jobListeners.delete(listener)
  }

  return {
    planId,
    status,
    failure,
    confirmed,
    revision,
    log,
    pending,
    setAside,
    base,
    scenarioId,
    plan,
    unfit,
    view,
    viewPlan,
    saysYears,
    refusal,
    news,
    storedAt,
    connection,
    stacks,
    byId,
    activity,
    open,
    close,
    follow,
    whenScheduled,
    viewScenario,
    edit,
    editPlan,
    hasEarlier,
    loadEarlier,
    undo,
    redo,
    takeBack,
    describe: describeLogged,
    resolveSetAside,
    onJob,
    explain: (id: string) => worker?.explain(id) ?? Promise.resolve(null),
    probe: (id: string) => worker?.probe(id) ?? Promise.resolve(null),
    /** What changes would do, each alone; nothing is kept. */
    tryOut: (changes: readonly Change[]) => worker?.try(changes) ?? Promise.resolve([]),
    /** Reads a list into the plan in view, beside the page. */
    readList: (list: ListToRead) => worker?.readList(list) ?? Promise.resolve(null),
    compare: (other: Plan) => worker?.compare(other) ?? Promise.resolve(null),
  }
})
