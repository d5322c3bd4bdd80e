import { useLocalStorage, watchDebounced } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import {
  applyChange,
  PlanError,
  setCalendar,
  type Change,
  type Item,
  type PlanCalendar,
  type Stays,
} from '@geodrome/core'
import type { Comparison } from '../workers/scheduleProtocol.ts'
import { usePlanStore } from './planStore.ts'

interface Draft {
  readonly fields: Item
  readonly stays: Stays
}
/** By calendar. */
type Drafts = Readonly<Record<string, Draft>>

/**
 * Calendars being worked on: their hours come into the plan only when asked, because what they move is shown first. Until then they wait
 * in this browser, each for itself. Edits of a plan go through {@link usePlanStore}; this holds what is not one yet.
 */
export const useCalendarDraft = defineStore('calendarDraft', () => {
  const plans = usePlanStore()
  const byPlan = useLocalStorage<Readonly<Record<string, Drafts>>>('geodrome-calendar-drafts', {})
  const ofPlan = computed((): Drafts => byPlan.value[plans.planId ?? ''] ?? {})
  /** Calendars of the plan that are drafted. */
  const drafted = computed(() =>
    (plans.plan?.calendars ?? []).map(({ id }) => id).filter((id) => ofPlan.value[id] !== undefined),
  )
  /** The calendar that is looked at. */
  const id = ref<string | null>(null)
  const draft = computed(() =>
    id.value !== null && drafted.value.includes(id.value) ? ofPlan.value[id.value]! : null,
  )
  const effect = shallowRef<Comparison | null>(null)
  const problem = ref('')

  const isOpen = computed(() => draft.value !== null)
  /** The calendar as drafted; others as they are. */
  const of = (calendar: PlanCalendar): PlanCalendar =>
    ({ ...calendar, ...ofPlan.value[calendar.id]?.fields }) as PlanCalendar
  const changesLength = computed(() => {
    const before = plans.plan?.calendars.find((c) => c.id === id.value)
    const { dayMinutes } = draft.value?.fields ?? {}
    return before !== undefined && dayMinutes !== undefined && dayMinutes !== before.dayMinutes
  })
  const change = computed((): Change | null => {
    const { plan } = plans
    if (!plan || id.value === null || !draft.value) return null
    return setCalendar(plan, id.value, draft.value.fields, draft.value.stays)
  })

  const put = (calendar: string, next: Draft | null): void => {
    const { [calendar]: _before, ...others } = ofPlan.value
    const drafts = next === null ? others : { ...others, [calendar]: next }
    const { [plans.planId!]: _drafts, ...plansLeft } = byPlan.value
    byPlan.value = Object.keys(drafts).length > 0 ? { ...plansLeft, [plans.planId!]: drafts } : plansLeft
  }
  const set = (calendar: string, next: Item): void => {
    const before = plans.plan?.calendars.find((c) => c.id === calendar) as Item | undefined
    const fields = { ...ofPlan.value[calendar]?.fields, ...next }
    // What is as it was is no draft.
    const differing = Object.entries(fields).filter(
      ([field, value]) => JSON.stringify(value) !== JSON.stringify(before?.[field]),
    )
    const stays = ofPlan.value[calendar]?.stays ?? 'days'
    put(calendar, differing.length > 0 ? { fields: Object.fromEntries(differing), stays } : null)
    id.value = calendar
  }
  const stays = computed({
    get: () => draft.value?.stays ?? 'days',
    set: (next) => {
      if (id.value !== null && draft.value) put(id.value, { ...draft.value, stays: next })
    },
  })
  /** Looks at a calendar, and at what its draft would do. */
  const look = (calendar: string | null): void => {
    id.value = calendar
    problem.value = ''
  }
  const drop = (): void => {
    if (id.value !== null) put(id.value, null)
    problem.value = ''
    effect.value = null
  }
  const keep = (): boolean => {
    if (!change.value) return false
    try {
      plans.edit(change.value)
      drop()
      return true
    } catch (error) {
      if (!(error instanceof PlanError)) throw error
      problem.value = error.issues[0]!.message
      return false
    }
  }
  // An effect is shown of what is there now, or not at all.
  watch(change, () => (effect.value = null), { flush: 'sync' })
  watchDebounced(
    [change, () => plans.viewPlan],
    async () => {
      const asked = change.value
      if (!asked || !plans.plan) return void (effect.value = null)
      try {
        const found = await plans.compare(applyChange(plans.plan, asked).plan)
        if (change.value !== asked) return
        effect.value = found
        problem.value = ''
      } catch (error) {
        effect.value = null
        problem.value = error instanceof PlanError ? error.issues[0]!.message : (error as Error).message
      }
    },
    { debounce: 120, immediate: true },
  )
  return { id, drafted, stays, effect, problem, isOpen, changesLength, of, set, look, drop, keep }
})
