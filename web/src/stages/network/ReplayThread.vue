<script setup lang="ts">
import { ChevronLeft, ChevronRight } from '@lucide/vue'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { instantOf, instantWords, roundMoneyWords } from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import IconButton from '../../controls/IconButton.vue'
import { byKeys, useCommands } from '../../commands/registry.ts'
import { useForecastStore } from '../../stores/forecastStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'

/** The iteration that is replayed: what came of it, what happened in it, and the way to those that finish before and after it. */
const plans = usePlanStore()
const forecast = useForecastStore()
const ui = useUiStore()
const router = useRouter()
const route = useRoute()
const replay = computed(() => forecast.replay!)
const at = computed(() => replay.value.at)
const problem = ref('')
const step = async (to: number | null): Promise<void> => {
  if (to === null) return
  problem.value = ''
  try {
    await forecast.lookAtIteration(replay.value.run, { iteration: to })
  } catch (error) {
    problem.value = (error as Error).message
  }
}
const words = (date: string, edge: 'start' | 'finish'): string =>
  instantWords(instantOf(date, edge), edge, { time: false })
const money = (amount: number): string => roundMoneyWords(amount, plans.plan!.project.currency)
const risks = computed(() => {
  const { risks: register } = plans.viewPlan!
  const codes = at.value.risks.map((id) => {
    const risk = register.find((one) => one.id === id)
    return risk?.code || risk?.name || ''
  })
  return codes.length === 0 ? 'no risk happened' : `${codes.join(', ')} happened`
})
const damages = computed(() => Object.values(at.value.damages).reduce((sum, amount) => sum + amount, 0))
/** What the iteration has of the activity that is looked at. */
const focused = computed(() => {
  const activity = ui.focus === null ? undefined : plans.activity(ui.focus)
  const then = activity && at.value.activities[activity.id]
  const i = activity && plans.byId.get(activity.id)
  if (!activity || !then || i === undefined || !plans.view) return null
  const days = Math.round((instantOf(then.finish, 'finish') - plans.view.finish[i]!) / 1440)
  const moved =
    days === 0 ? 'as planned' : `${Math.abs(days)} d ${days > 0 ? 'later' : 'earlier'} than planned`
  const span =
    then.start === then.finish
      ? words(then.finish, 'finish')
      : `${words(then.start, 'start')} to ${words(then.finish, 'finish')}`
  return `${activity.code}: ${span}, ${moved}${then.cost > 0 ? `, ${money(then.cost)}` : ''}`
})
const leave = (): void => void (forecast.replay = null)
const back = (): void =>
  void router.push({ name: 'forecast', params: { id: route.params.id as string, part: '' } })
useCommands(() => [
  byKeys(
    'On the Ground',
    'replay-before',
    ['Alt ,', ','],
    'Replay one that finishes earlier',
    () => void step(at.value.before),
  ),
  byKeys(
    'On the Ground',
    'replay-after',
    ['Alt .', '.'],
    'Replay one that finishes later',
    () => void step(at.value.after),
  ),
])
</script>

<template>
  <div class="thread" role="region" aria-label="Replayed iteration">
    <ActButton kind="noun" @click="back">← Simulation</ActButton>
    <IconButton
      :icon="ChevronLeft"
      label="One that finishes earlier"
      :disabled="at.before === null"
      data-test="thread-before"
      @click="step(at.before)"
    />
    <span role="status" class="what" data-test="replay-said">
      <strong
        >Iteration {{ at.iteration.toLocaleString('en') }} finishes {{ words(at.finish, 'finish') }}</strong
      >, {{ at.rank.toLocaleString('en') }} of {{ at.of.toLocaleString('en') }} by finish; {{ risks
      }}<template v-if="at.cost > 0">; costs {{ money(at.cost) }}</template
      ><template v-if="damages > 0">, damages {{ money(damages) }} in it</template>.
      <span v-if="forecast.isStale(replay.run)" class="signal" data-test="replay-stale"
        >It is of the plan at revision {{ replay.run.revision }}, before the last edits.</span
      >
      <span v-if="focused" class="soft">{{ focused }}</span>
      <span v-if="problem" class="brick">{{ problem }}</span>
    </span>
    <IconButton
      :icon="ChevronRight"
      label="One that finishes later"
      :disabled="at.after === null"
      data-test="thread-after"
      @click="step(at.after)"
    />
    <ActButton kind="bare" class="close" data-test="end-replay" @click="leave">End the replay</ActButton>
  </div>
</template>

<style scoped>
.thread {
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 32px;
  padding: 2px 14px;
  background: var(--wash);
  border-bottom: 1px solid var(--hairline);
  flex: none;
}
.what {
  line-height: 1.3;
}
.close {
  margin-left: auto;
  border-bottom: 1.5px dotted var(--ink);
  white-space: nowrap;
}
</style>
