import { watchDebounced } from '@vueuse/core'
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

/**
 * A calendar being worked on: its hours are kept in the plan only when asked, because what they move is shown first.
 * Edits of a plan go through {@link usePlanStore}; this holds what is not one yet.
 */
export const useCalendarDraft = defineStore('calendarDraft', () => {
  const plans = usePlanStore()
  const id = ref<string | null>(null)
  const fields = shallowRef<Item>({})
  const stays = ref<Stays>('days')
  const effect = shallowRef<Comparison | null>(null)
  const problem = ref('')

  const isOpen = computed(() => id.value !== null && Object.keys(fields.value).length > 0)
  /** The calendar as drafted; others as they are. */
  const of = (calendar: PlanCalendar): PlanCalendar =>
    calendar.id === id.value ? ({ ...calendar, ...fields.value } as PlanCalendar) : calendar
  const changesLength = computed(() => {
    const before = plans.plan?.calendars.find((c) => c.id === id.value)
    return (
      before !== undefined &&
      fields.value.dayMinutes !== undefined &&
      fields.value.dayMinutes !== before.dayMinutes
    )
  })
  const change = computed((): Change | null => {
    const { plan } = plans
    if (!plan || !isOpen.value || !plan.calendars.some((c) => c.id === id.value)) return null
    return setCalendar(plan, id.value!, fields.value, stays.value)
  })

  const set = (calendar: string, next: Item): void => {
    fields.value = id.value === calendar ? { ...fields.value, ...next } : next
    id.value = calendar
    const before = plans.plan?.calendars.find((c) => c.id === calendar) as Item | undefined
    // What is as it was is no draft.
    if (before)
      fields.value = Object.fromEntries(
        Object.entries(fields.value).filter(
          ([field, value]) => JSON.stringify(value) !== JSON.stringify(before[field]),
        ),
      )
  }
  const drop = (): void => {
    id.value = null
    fields.value = {}
    problem.value = ''
    effect.value = null
  }
  /** Drafts of plans that were left, for when one comes back to them. */
  const left = new Map<string, { id: string; fields: Item; stays: Stays }>()
  const changePlan = (from: string | null, to: string): void => {
    if (from !== null && isOpen.value)
      left.set(from, { id: id.value!, fields: fields.value, stays: stays.value })
    drop()
    const known = left.get(to)
    if (!known) return
    left.delete(to)
    id.value = known.id
    fields.value = known.fields
    stays.value = known.stays
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
  return { id, fields, stays, effect, problem, isOpen, changesLength, of, set, drop, changePlan, keep }
})
