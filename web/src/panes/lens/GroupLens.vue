<script setup lang="ts">
import { computed } from 'vue'
import { counted, durationWords, groupsAround, instantWords, NONE, workBetween } from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { useLensStore } from '../../stores/lensStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import { tightestOf } from '../rows/floatDays.ts'
import ActivityLine from './ActivityLine.vue'
import SelectionActs from './SelectionActs.vue'

/** A selected group: what spans it, what begins and ends it, where its float is tightest, what of it decides the finish. */
const props = defineProps<{ group: string; calendars: CalendarLookup }>()
const lens = useLensStore()
const ui = useUiStore()
const plan = computed(() => lens.plan!)
const view = computed(() => lens.view!)
const group = computed(() => plan.value.groups.find(({ id }) => id === props.group))
const members = computed(() => {
  const around = groupsAround(plan.value)
  return plan.value.activities.flatMap((activity, i) =>
    activity.kind !== 'hammock' && around(activity.group).includes(props.group) ? [i] : [],
  )
})
const least = (of: ArrayLike<number>, sign: 1 | -1): number =>
  members.value.reduce((best, i) => (sign * of[i]! < sign * of[best]! ? i : best), members.value[0]!)
const first = computed(() => least(view.value.start, 1))
const last = computed(() => least(view.value.finish, -1))
const tightest = computed(() =>
  tightestOf({ plan: plan.value, view: view.value, calendars: props.calendars }, members.value),
)
const onPath = computed(() => members.value.filter((i) => view.value.onLongestPath[i] === 1))
const named = (i: number): string => `${plan.value.activities[i]!.code} ${plan.value.activities[i]!.name}`
const show = (i: number): void => ui.select(plan.value.activities[i]!.id, { show: true })
const span = computed(() =>
  durationWords(
    workBetween(props.calendars.project, view.value.start[first.value]!, view.value.finish[last.value]!),
    props.calendars.projectLengths,
  ),
)
const float = computed(() => {
  const i = tightest.value
  const minutes = i < 0 ? NONE : view.value.totalFloat[i]!
  return minutes === NONE ? '' : durationWords(minutes, props.calendars.lengthsOf(plan.value.activities[i]!))
})
const showAlone = (): void => {
  ui.filter = {
    ids: new Set(members.value.map((i) => plan.value.activities[i]!.id)),
    reason: `in ${group.value!.name || group.value!.code}`,
  }
}
</script>

<template>
  <template v-if="group">
    <p class="where">
      <span class="code">{{ group.code }}</span> · group of {{ counted(members.length, 'activity') }}
    </p>
    <h2 class="title">{{ group.name || group.code }}</h2>
    <SelectionActs :ids="['indent', 'outdent', 'up', 'down', 'remove']" />
    <p v-if="members.length === 0" class="soft">There is nothing in it yet.</p>
    <template v-else>
      <p class="soft">
        {{ instantWords(view.start[first]!, 'start') }} → {{ instantWords(view.finish[last]!, 'finish') }},
        {{ span }} on the project’s calendar
      </p>
      <p data-test="group-why">
        It begins with <ActButton kind="noun" @click="show(first)">{{ named(first) }}</ActButton> and ends
        with <ActButton kind="noun" @click="show(last)">{{ named(last) }}</ActButton>.
        <template v-if="float"
          >Its float is that of its tightest work,
          <ActButton kind="noun" @click="show(tightest)">{{ named(tightest) }}</ActButton>:
          <strong>{{ float }}</strong>.</template
        >
      </p>
      <p v-if="onPath.length === 0">
        None of it is on the longest path: it does not decide the finish today.
      </p>
      <template v-else>
        <h3>On the longest path, {{ onPath.length }} of {{ members.length }}</h3>
        <ActivityLine v-for="i in onPath" :key="i" :drawn="{ plan, view }" :index="i" />
      </template>
      <p><ActButton kind="noun" data-test="group-alone" @click="showAlone">Show it alone</ActButton></p>
    </template>
  </template>
</template>

<style scoped>
.where {
  font-size: 12.5px;
  color: var(--soft-ink);
}
.title {
  margin: 6px 0 2px;
}
h3 {
  margin: 14px 0 4px;
}
</style>
