import { computed, ref, shallowRef, watch, type Ref } from 'vue'
import {
  freshId,
  keepEvents,
  numberEvents,
  whyNotNumber,
  type ArrowMap,
  type EventLabel,
  type KnownEvent,
} from '@geodrome/core'
import { useAttempt } from '../../composables/useAttempt.ts'
import { usePlanStore } from '../../stores/planStore.ts'

/** Numbers of events that were drawn since the plan was opened, by plan: an edit leaves them as they are. */
const drawnBefore = new Map<string, readonly KnownEvent[]>()

/** Numbers and names of the events of a drawing: those the plan keeps, then those drawn before, then new ones. */
export const useEventLabels = (map: Readonly<Ref<ArrowMap>>) => {
  const plans = usePlanStore()
  const { problem, attempt } = useAttempt()
  const labels = shallowRef<readonly EventLabel[]>([])
  const label = (): void => {
    const key = plans.planId ?? ''
    const before = drawnBefore.get(key) ?? []
    labels.value = numberEvents(map.value, [...(plans.plan?.events ?? []), ...before])
    const now = map.value.events.map(({ ends, begins }, e): KnownEvent => ({
      id: null,
      number: labels.value[e]!.number,
      name: '',
      ends,
      begins,
    }))
    const drawn = new Set(
      map.value.events.flatMap(({ ends, begins }) => [
        ...ends.map((id) => `f${id}`),
        ...begins.map((id) => `s${id}`),
      ]),
    )
    const isElsewhere = ({ ends, begins }: KnownEvent): boolean =>
      !ends.some((id) => drawn.has(`f${id}`)) && !begins.some((id) => drawn.has(`s${id}`))
    drawnBefore.set(key, [...now, ...before.filter(isElsewhere)])
  }
  watch([map, () => plans.plan?.events], label, { immediate: true, flush: 'sync' })
  /** The event whose number and name are being written. */
  const chosen = ref<number | null>(null)
  const draft = ref({ number: '', name: '' })
  const choose = (event: number): void => {
    problem.value = ''
    chosen.value = event
    draft.value = { number: String(labels.value[event]!.number), name: labels.value[event]!.name }
  }
  const leave = (): void => {
    chosen.value = null
    problem.value = ''
  }
  const freshEvent = (): (() => string) => {
    const taken = [...plans.plan!.events]
    return () => {
      const id = freshId(taken, 'e', Math.random)
      taken.push({ id } as never)
      return id
    }
  }
  /** Keeps all numbers of the drawing in the plan, with what was written for the chosen event. */
  const keep = (): void => {
    const event = chosen.value
    let rename = null
    if (event !== null) {
      const number = Number(draft.value.number.trim() || NaN)
      problem.value = whyNotNumber(map.value, labels.value, event, number)
      if (problem.value !== '') return
      rename = { event, number, name: draft.value.name.trim() }
    }
    const change = keepEvents(plans.plan!, map.value, labels.value, freshEvent(), rename)
    if (change && !attempt(() => plans.edit(change))) return
    chosen.value = null
  }
  /** The events drawn are numbered anew by tens; names stay, and so does what is kept of other parts. */
  const renumber = (): void => {
    const plan = plans.plan!
    const gone = new Set(labels.value.flatMap(({ kept }) => (kept === null ? [] : [kept])))
    const fresh = numberEvents(map.value, []).map((next, e) => ({ ...next, name: labels.value[e]!.name }))
    drawnBefore.delete(plans.planId ?? '')
    if (gone.size === 0) return label()
    const removals = [...gone].map((key) => ({ kind: 'remove' as const, list: 'events' as const, key }))
    const others = plan.events.filter(({ id }) => !gone.has(id))
    const added = fresh.some(({ name }) => name !== '')
      ? keepEvents({ ...plan, events: others }, map.value, fresh, freshEvent(), null)
      : null
    attempt(() => plans.edit({ kind: 'all', changes: added ? [...removals, added] : removals }))
  }
  const isKept = computed(() => labels.value.some((label) => label.kept !== null))
  return { labels, chosen, draft, problem, isKept, choose, leave, keep, renumber }
}
