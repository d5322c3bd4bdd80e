import { defineStore } from 'pinia'
import { useDocumentVisibility } from '@vueuse/core'
import { computed, ref, shallowRef, watch, type ComputedRef } from 'vue'
import {
  applyChange,
  describeChange,
  durationWords,
  editInScenario,
  runProgressSchema,
  keepingDays,
  loggedChangeSchema,
  PlanError,
  positionsOf,
  sayYearsOf,
  scenarioPlan,
  spanEnd,
  type Activity,
  type Change,
  type Keeper,
  type KeptPlan,
  type RunProgress,
  type LoggedChange,
  type Plan,
  type Positions,
  lengthsOf,
  calendarOf,
  whyNotChange,
} from '@geodrome/core'
import { api, type PlanMeant } from '../api/client.ts'
import { PlanSession, type SessionEvent } from '../session/planSession.ts'
import { ScheduleClient } from '../workers/scheduleClient.ts'
import type {
  EditEffect,
  ListToRead,
  ScheduledReply,
  ScheduleView,
  Unscheduled,
} from '../workers/scheduleProtocol.ts'
import type { QuestionAnswer, QuestionInput, QuestionName } from '../workers/questions.ts'
import { authorName, clientId } from './identity.ts'
import { outbox } from './outbox.ts'
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
/** Before a stream that was refused is asked for again. */
const REOPEN_MS = 2000
const QUIET_AFTER_MS = 3000

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

/** A plan as it was, in view. */
export interface KeptInView extends KeptPlan {
  readonly list: Keeper
  readonly key: string
  /** What kept it. */
  readonly name: string
}

/** Who goes along with the plan in view: it comes whole, or changed by one change. */
export interface PlanFollower {
  load(plan: Plan): void
  change(change: Change): void
  closed(): void
}

/**
 * The open plan on the screen: what its {@link PlanSession} holds, the plan in view (with a scenario's changes where one is open),
 * its schedule, and the news of the last edit. Every edit goes through {@link edit}.
 */
export const usePlanStore = defineStore('plan', () => {
  const planId = ref<string | null>(null)
  const session = shallowRef<PlanSession | null>(null)
  /** Counts up with whatever the session does, since it knows nothing of who looks. */
  const turn = ref(0)
  const of = <T>(read: (open: PlanSession) => T, none: T): ComputedRef<T> =>
    computed(() => (turn.value >= 0 && session.value ? read(session.value) : none))

  const status = of((s) => s.status, 'closed')
  const failure = of((s) => s.failure, '')
  const confirmed = of((s) => s.confirmed, null)
  const revision = of((s) => s.revision, 0)
  /** What who looks is in this plan. */
  const role = of((s) => s.role, 'administrator')
  const log = of((s) => s.log, [])
  const pending = of((s) => s.pending, [])
  const setAside = of((s) => s.setAside, [])
  /** The plan without a scenario's changes. */
  const base = of((s) => s.plan, null)
  const storedAt = of((s) => s.storedAt, null)
  const connection = of((s) => s.connection, 'online')
  /** Whether what waits would survive a reload. */
  const keepsOutbox = of((s) => s.keeps, true)
  /** Baselines and periods whose entries are still on their way. */
  const left = of((s) => s.left.length, 0)
  const hasEarlier = of((s) => s.hasEarlier, false)

  const scenarioId = ref<string | null>(null)
  /** The plan as it was when something of it was kept, where that is in view: nothing can be changed in it. */
  const kept = shallowRef<KeptInView | null>(null)
  /** Why what was asked for last could not be brought into view. */
  const keptProblem = ref('')
  const plan = shallowRef<Plan | null>(null)
  const unfit = shallowRef<ReadonlyMap<string, string>>(new Map())
  const view = shallowRef<ScheduleView | null>(null)
  /** The plan that `view` belongs to: the two change together. */
  const viewPlan = shallowRef<Plan | null>(null)
  /** Whether dates of this plan need their year. */
  const saysYears = ref(false)
  /** Why the plan in view has no dates; null where it has. */
  const unscheduled = shallowRef<Unscheduled | null>(null)
  /** Why what was done last could not be taken back. */
  const refusal = ref('')
  const news = shallowRef<EditNews | null>(null)
  const followers = new Set<PlanFollower>()
  const jobListeners = new Set<(progress: RunProgress) => void>()

  const visibility = useDocumentVisibility()
  let worker: ScheduleClient | null = null
  let events: EventSource | null = null
  /** Called when the next schedule has come, in the same turn, so that one frame shows both. */
  const awaiting: (() => void)[] = []
  const whenScheduled = (come: () => void): void => void awaiting.push(come)
  /** News that waits for the schedule it belongs to. */
  let awaited: Pick<EditNews, 'label' | 'uid' | 'author' | 'offer'> | null = null

  /** Positions of activities by id; edits that neither add nor move one keep the index. */
  const byId = computed((): Positions => positionsOf(viewPlan.value?.activities ?? NO_ACTIVITIES))
  const stacks = computed(() => {
    const lines = log.value.map(({ uid, author, undoes }) => ({ uid, author, undoes }))
    return undoStacks([...lines, ...pending.value], authorName.value)
  })
  const activity = (id: string): Activity | undefined => viewPlan.value?.activities[byId.value.get(id) ?? -1]

  const open = async (id: string): Promise<void> => {
    if (planId.value === id && status.value === 'open') return
    close()
    planId.value = id
    const opened = new PlanSession(id, {
      transport: api,
      outbox,
      identity: { client: clientId, author: () => authorName.value, newUid: () => crypto.randomUUID() },
      later: (run, ms) => {
        const timer = setTimeout(run, ms)
        return () => clearTimeout(timer)
      },
      onEvent: (event) => {
        if (session.value !== opened) return
        turn.value++
        follows(event)
      },
      onState: () => void turn.value++,
    })
    session.value = opened
    worker = new ScheduleClient({ scheduled, refused })
    await opened.open()
    if (session.value === opened && opened.status === 'open') listen(opened)
  }

  const scheduled = (reply: ScheduledReply): void => {
    const before = view.value && viewPlan.value ? { plan: viewPlan.value, view: view.value } : null
    saysYears.value = sayYearsOf(
      reply.view.projectStart,
      spanEnd(reply.view.projectFinish, plan.value!.project.requiredFinish),
    )
    view.value = reply.view
    viewPlan.value = plan.value
    unscheduled.value = null
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
  }
  const refused = (why: Unscheduled): void => {
    // Dates of the plan as it was would be taken for those of the plan as it is.
    view.value = viewPlan.value = news.value = null
    awaited = null
    unscheduled.value = why
    awaiting.splice(0).forEach((come) => come())
  }

  const close = (): void => {
    events?.close()
    worker?.stop()
    session.value?.close()
    followers.forEach((follower) => follower.closed())
    events = worker = null
    planId.value = session.value = null
    plan.value = viewPlan.value = view.value = null
    news.value = unscheduled.value = null
    scenarioId.value = kept.value = null
    keptProblem.value = ''
  }

  /** What the session did, brought into view with the news of it. */
  const follows = (event: SessionEvent): void => {
    // What was kept stays what it was, whatever others do to the plan.
    if (kept.value !== null) return
    if (event.kind === 'changed') {
      const { by } = event
      awaited =
        'label' in by
          ? {
              label: by.label,
              uid: by.uid,
              author: null,
              offer: by.undoes === null ? offerOf(plan.value!, event.change) : null,
            }
          : { label: describeChange(plan.value!, by.change), uid: null, author: by.author, offer: null }
      return show(event.change)
    }
    if (event.kind === 'filled') return show(event.change)
    if (event.kind === 'rebuilt' && event.by)
      awaited = {
        label: describeChange(plan.value!, event.by.change),
        uid: null,
        author: event.by.author,
        offer: null,
      }
    show(null)
  }

  /** Brings the plan in view up to date; a known change spares the worker the whole plan. */
  const show = (change: Change | null): void => {
    if (kept.value !== null) {
      plan.value = kept.value.plan
      unfit.value = new Map()
      worker?.load(plan.value)
      followers.forEach((follower) => follower.load(plan.value!))
      return
    }
    const id = scenarioId.value
    if (id !== null && !base.value!.scenarios.some((s) => s.id === id)) scenarioId.value = null
    if (scenarioId.value === null) {
      plan.value = base.value
      unfit.value = new Map()
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

  /** Counts what was asked into view: an answer that comes after the next question is not shown. */
  let asked = 0
  /** Brings a scenario into view, or the plan (null). */
  const viewScenario = (id: string | null): void => {
    keptProblem.value = ''
    asked++
    if (scenarioId.value === id && kept.value === null) return
    scenarioId.value = id
    kept.value = news.value = null
    show(null)
  }
  /** Brings the plan into view as it was when a baseline was frozen or an update was kept. @returns whether it is in view */
  const viewKept = async (list: Keeper, key: string): Promise<boolean> => {
    const opened = session.value!
    const mine = ++asked
    keptProblem.value = ''
    const item = base.value![list].find(({ id }) => id === key)
    const name = item?.name || (list === 'baselines' ? 'The baseline' : 'The update')
    try {
      const found = await api.planWhenKept(opened.planId, list, key)
      if (session.value !== opened || mine !== asked) return false
      scenarioId.value = news.value = null
      kept.value = { ...found, list, key, name }
      show(null)
      return true
    } catch (error) {
      keptProblem.value = `${name} cannot be opened: ${(error as Error).message}`
      return false
    }
  }
  /** Why the plan itself is not what is edited now; '' where it is. */
  const whyNotPlan = computed(() =>
    kept.value !== null
      ? 'The plan as it was is in view: go back to the plan first.'
      : scenarioId.value !== null
        ? 'A scenario is in view: go back to the plan first.'
        : '',
  )
  /** What of the plan is in view, as the server is asked for it. */
  const meant = computed((): PlanMeant =>
    kept.value !== null
      ? { kept: `${kept.value.list}/${kept.value.key}` }
      : scenarioId.value !== null
        ? { scenario: scenarioId.value }
        : {},
  )
  /** The same in words, for what is made of it. */
  const meantWords = computed(() =>
    kept.value !== null
      ? `the plan as it was: ${kept.value.name}`
      : scenarioId.value !== null
        ? 'the scenario in view'
        : 'the plan',
  )
  const refuseOfKept = (): void => {
    if (kept.value === null) return
    const message = `${kept.value.name} is in view, the plan as it was: nothing can be changed in it; go back to the plan, or make a scenario of it`
    throw new PlanError([{ pointer: '', code: 'missing', message }])
  }

  /** Makes a change here and sends it. @throws PlanError if it breaks a rule; nothing is then changed */
  const commit = (made: Change, label: string, undoes: string | null): void => {
    const opened = session.value!
    const whyNot = whyNotChange(opened.role, made)
    if (whyNot !== null) throw new PlanError([{ pointer: '', code: 'missing', message: whyNot }])
    // As it will be stored: nothing reactive of a form goes into the plan, the outbox or the worker.
    const change = JSON.parse(JSON.stringify(made)) as Change
    const seen = painted(whenScheduled)
    opened.make(change, label, undoes)
    // Sending costs what painting needs: it waits until what the change did is seen, a moment at the most. It is kept here already.
    void Promise.all([opened.keep(), seen]).then(() => opened.flush())
  }

  /**
   * The one way in which the interface edits: the plan, or the scenario in view.
   * @throws PlanError with what is wrong and how to mend it
   */
  const edit = (change: Change): void => {
    refuseOfKept()
    const label = describeChange(plan.value!, change)
    if (scenarioId.value === null) return commit(change, label, null)
    applyChange(plan.value!, change)
    commit(editInScenario(base.value!, scenarioId.value, change, Math.random), label, null)
  }

  /** Edits the plan itself whatever scenario is in view: scenarios, project facts. */
  const editPlan = (change: Change): void => {
    refuseOfKept()
    commit(change, describeChange(base.value!, change), null)
  }

  const takeBack = (uid: string | undefined, word: 'Undone' | 'Redone' = 'Undone'): void => {
    if (uid === undefined) return
    const inverse = session.value?.inverseOf(uid)
    if (!inverse) return
    try {
      refuseOfKept()
      commit(inverse, `${word}: ${describeChange(base.value!, inverse)}`, uid)
    } catch (error) {
      if (!(error instanceof PlanError)) throw error
      refusal.value = `it cannot be taken back: ${error.issues[0]!.message}`
    }
  }
  /** Fetches a page of earlier changes. @returns whether there was one */
  const loadEarlier = (): Promise<boolean> => session.value?.loadEarlier() ?? Promise.resolve(false)
  const undo = async (): Promise<void> => {
    while (stacks.value.undo.length === 0 && hasEarlier.value && (await loadEarlier()));
    takeBack(stacks.value.undo.at(-1), 'Undone')
  }
  const redo = (): void => takeBack(stacks.value.redo.at(-1), 'Redone')

  /** Decides about a change that was refused: put on top of theirs, or dropped. */
  const resolveSetAside = (uid: string, how: 'mine' | 'theirs'): void =>
    session.value?.resolveSetAside(uid, how)

  const listen = (opened: PlanSession): void => {
    if (visibility.value === 'hidden') return
    const stream = api.events(opened.planId, opened.revision)
    events = stream
    let queue = Promise.resolve()
    stream.addEventListener('change', ({ data }: MessageEvent<string>) => {
      const entry = loggedChangeSchema.parse(JSON.parse(data))
      queue = queue.then(() => opened.receive([entry])).catch(() => undefined)
    })
    stream.addEventListener('run', ({ data }: MessageEvent<string>) => {
      const progress = runProgressSchema.parse(JSON.parse(data))
      jobListeners.forEach((listener) => listener(progress))
    })
    stream.onopen = () => opened.streamOpened()
    stream.onerror = () => {
      opened.streamLost()
      // A browser opens a stream that broke anew by itself, but not one that was answered with an error.
      if (stream.readyState !== stream.CLOSED) return
      // Signed out, without a part in the plan any more, or the plan is gone: what is asked next says which.
      void opened.catchUp()
      setTimeout(() => {
        if (events !== stream || session.value !== opened || opened.status !== 'open') return
        events = null
        listen(opened)
      }, REOPEN_MS)
    }
  }

  /**
   * A browser has six connections to a server, for all its tabs, and a stream takes one for good: a tab that is not looked at gives
   * its own back, and is told what it missed when it is seen again.
   */
  let quiet: ReturnType<typeof setTimeout> | undefined
  watch(visibility, (now) => {
    clearTimeout(quiet)
    if (now === 'visible') {
      if (!events && session.value?.status === 'open') listen(session.value)
      return
    }
    quiet = setTimeout(() => {
      events?.close()
      events = null
    }, QUIET_AFTER_MS)
  })

  const onRun = (listener: (progress: RunProgress) => void): (() => void) => {
    jobListeners.add(listener)
    return () => jobListeners.delete(listener)
  }

  return {
    planId,
    status,
    failure,
    confirmed,
    revision,
    role,
    log,
    pending,
    setAside,
    base,
    scenarioId,
    kept,
    keptProblem,
    whyNotPlan,
    meant,
    meantWords,
    plan,
    unfit,
    view,
    viewPlan,
    saysYears,
    refusal,
    unscheduled,
    news,
    storedAt,
    connection,
    keepsOutbox,
    left,
    stacks,
    byId,
    activity,
    open,
    close,
    follow,
    whenScheduled,
    viewScenario,
    viewKept,
    edit,
    editPlan,
    hasEarlier,
    loadEarlier,
    undo,
    redo,
    takeBack,
    describe: (entry: LoggedChange) => session.value!.describe(entry),
    resolveSetAside,
    onRun,
    /** Hears what others did, and sends what waits. */
    catchUp: () => session.value?.catchUp().then(() => session.value?.flush()) ?? Promise.resolve(),
    explain: (id: string) => worker?.explain(id) ?? Promise.resolve(null),
    probe: (id: string) => worker?.probe(id) ?? Promise.resolve(null),
    /** What changes would do, each alone; nothing is kept. */
    tryOut: (changes: readonly Change[]) => worker?.try(changes) ?? Promise.resolve([]),
    /** Reads a list into the plan in view, beside the page. */
    readList: (list: ListToRead) => worker?.readList(list) ?? Promise.resolve(null),
    /** @throws Error with why there is no answer */
    question: <N extends QuestionName>(name: N, input: QuestionInput<N>): Promise<QuestionAnswer<N>> =>
      worker?.question(name, input) ?? Promise.reject(new Error('no plan is open')),
    compare: (other: Plan) => worker?.compare(other) ?? Promise.resolve(null),
  }
})
