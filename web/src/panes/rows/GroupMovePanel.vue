<script setup lang="ts">
import RadioChoice from '../../controls/RadioChoice.vue'
import ActButton from '../../controls/ActButton.vue'
import { onKeyStroke } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { dateWords, groupMoves, type GroupMove } from '@geodrome/core'
import { useCalendars } from '../../composables/useCalendars.ts'
import { trialWords } from '../../composables/useForesight.ts'
import { useListCommands } from './useListCommands.ts'
import { useListStore } from './listStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import type { Trial } from '../../workers/scheduleProtocol.ts'

/** A group asked to another start: the ways to bring it there, each with what it would do, before one is taken. */
const props = defineProps<{ group: string; date: string }>()
const plans = usePlanStore()
const list = useListStore()
const { attempt } = useListCommands()
const calendars = useCalendars(() => plans.viewPlan)
const close = (): void => void (list.groupMove = null)
onKeyStroke('Escape', close)

const name = computed(() => plans.viewPlan?.groups.find((g) => g.id === props.group)?.name ?? '')
const ways = computed(() =>
  plans.viewPlan && plans.view ? groupMoves(plans.viewPlan, props.group, props.date, plans.view.start) : [],
)
const chosen = ref<GroupMove['kind']>('limit')
const trials = shallowRef<readonly Trial[]>([])
watch(
  ways,
  async (now) => {
    trials.value = []
    if (!now.some((way) => way.kind === chosen.value) && now[0]) chosen.value = now[0].kind
    const found = await plans.tryOut(now.map((way) => way.change))
    if (now === ways.value) trials.value = found
  },
  { immediate: true },
)
const what = ({ kind, starts }: GroupMove): string => {
  const named = starts
    .slice(0, 4)
    .map(
      ({ id, date }) => `${plans.activity(id)?.code ?? id}${kind === 'shift' ? ` ${dateWords(date)}` : ''}`,
    )
  const rest = starts.length > 4 ? ` and ${starts.length - 4} more` : ''
  return kind === 'limit'
    ? `Constraints on its open starts, not before ${dateWords(props.date)}: ${named.join(', ')}${rest}`
    : `Shift its work that waits for nothing, distances kept: ${named.join(', ')}${rest}`
}
const effect = (trial: Trial | undefined): string =>
  trial ? trialWords(trial, plans.view!.projectFinish, calendars.value!) || 'nothing moves' : '…'
const take = (): void => {
  const way = ways.value.find((w) => w.kind === chosen.value)
  if (way && attempt(() => plans.edit(way.change))) close()
}
</script>

<template>
  <form class="over-rows" aria-label="Move a group" data-test="group-move" @submit.prevent="take">
    <strong>{{ name }} to start {{ dateWords(date) }}</strong>
    <RadioChoice
      v-model="chosen"
      label="How it is moved"
      :options="ways.map((way) => ({ value: way.kind, label: what(way) }))"
    >
      <template #option="{ option }"
        >{{ option.label }}<br /><span class="soft">{{
          effect(trials[ways.findIndex((way) => way.kind === option.value)])
        }}</span></template
      >
    </RadioChoice>
    <p v-if="ways.length === 0" class="brick">
      Nothing in it can be brought to that start: its work has begun, or stands as early as it can.
    </p>
    <p class="commands">
      <ActButton type="submit" :disabled="ways.length === 0">Move it</ActButton>
      <ActButton type="button" @click="close">Leave it</ActButton>
    </p>
  </form>
</template>

<style scoped>
.commands {
  display: flex;
  gap: 8px;
}
</style>
