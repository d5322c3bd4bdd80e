import { computed, shallowRef, watch, type ComputedRef } from 'vue'
import { counted, type Change } from '@geodrome/core'
import { usePlanStore } from '../stores/planStore.ts'
import type { ScheduleView, Trial } from '../workers/scheduleProtocol.ts'
import { finishWords } from './finishWords.ts'
import { useCalendars, type CalendarLookup } from './useCalendars.ts'

/** What a trial found, in words; nothing where no date would be another. */
export const trialWords = (trial: Trial, finish: number, calendars: CalendarLookup): string => {
  if ('problem' in trial) return trial.problem
  return trial.moved === 0 && trial.finish === finish
    ? ''
    : `${finishWords(finish, trial.finish, calendars)}, ${counted(trial.moved, 'activity')} on other dates`
}

/**
 * What a change that is being typed or drawn would do, in words, before it is made. It is tried beside the plan, one at a time, and
 * is ready there when it is made.
 * @param change - null where nothing is meant
 */
export const useForesight = (change: () => Change | null): ComputedRef<string> => {
  const plans = usePlanStore()
  const calendars = useCalendars(() => plans.viewPlan)
  const meant = computed(() => {
    const now = change()
    return now && JSON.stringify(now)
  })
  const found = shallowRef<{
    readonly meant: string
    readonly view: ScheduleView
    readonly trial: Trial
  } | null>(null)
  let isAsking = false
  const ask = async (): Promise<void> => {
    const [asked, now, { view }] = [meant.value, change(), plans]
    if (isAsking || asked === null || !now || !view) return
    isAsking = true
    const [trial] = await plans.tryOut([now])
    isAsking = false
    if (trial) found.value = { meant: asked, view, trial }
    if (meant.value !== asked || plans.view !== view) void ask()
  }
  watch([meant, () => plans.view], ask, { immediate: true })
  return computed(() => {
    if (
      !found.value ||
      found.value.meant !== meant.value ||
      found.value.view !== plans.view ||
      !calendars.value
    )
      return ''
    return trialWords(found.value.trial, found.value.view.projectFinish, calendars.value)
  })
}
