<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue'
import {
  durationWords,
  explanationWords,
  instantOf,
  instantWords,
  workBetween,
  type Sentence,
} from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { useLensStore } from '../../stores/lensStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import { tightestOf } from '../rows/floatDays.ts'
import SentenceText from './SentenceText.vue'

/** With nothing selected: what decides the finish, from the first to the last, and where the float is tightest, and why. */
const props = defineProps<{ calendars: CalendarLookup }>()
const lens = useLensStore()
const plans = usePlanStore()
const ui = useUiStore()

const plan = computed(() => lens.plan!)
const view = computed(() => lens.view!)
/** The longest path in order of its dates. */
const path = computed(() =>
  plan.value.activities
    .map((activity, i) => ({ activity, i }))
    .filter(({ activity, i }) => view.value.onLongestPath[i] === 1 && activity.kind !== 'hammock')
    .sort((a, b) => view.value.start[a.i]! - view.value.start[b.i]! || a.i - b.i)
    .map(({ activity, i }) => ({
      id: activity.id,
      code: activity.code,
      name: activity.name,
      when: instantWords(view.value.finish[i]!, 'finish', { time: false }),
      at: view.value.finish[i]!,
    })),
)
const last = computed(() => path.value.findLast(({ at }) => at === view.value.projectFinish))
const SHOWN = 9
const unfolded = shallowRef(false)
const shown = computed(() =>
  unfolded.value || path.value.length <= SHOWN ? path.value : path.value.slice(-SHOWN),
)
const showAlone = (): void => {
  ui.filter = { ids: new Set(path.value.map(({ id }) => id)), reason: 'the longest path' }
}
const against = computed(() => {
  const { requiredFinish } = plan.value.project
  if (requiredFinish === null) return ''
  const by = workBetween(
    props.calendars.project,
    instantOf(requiredFinish, 'finish'),
    view.value.projectFinish,
  )
  const words = durationWords(Math.abs(by), props.calendars.projectLengths)
  return by > 0
    ? `${words} later than required`
    : by < 0
      ? `${words} before it is required`
      : 'just as required'
})

const tightest = computed(() =>
  tightestOf(
    { plan: plan.value, view: view.value, calendars: props.calendars },
    plan.value.activities.map((_, i) => i),
  ),
)
/** Why the tightest float is what it is. */
const why = shallowRef<Sentence | null>(null)
watch(
  [() => lens.view, tightest],
  async ([asked, i]) => {
    why.value = null
    const activity = plan.value.activities[i]
    if (!activity) return
    const found = await plans.explain(activity.id)
    if (lens.view !== asked || tightest.value !== i) return
    why.value = found && !('problem' in found) ? explanationWords(plan.value, found).float.sentence : null
  },
  { immediate: true },
)
</script>

<template>
  <h2 class="title">Why does it finish {{ instantWords(view.projectFinish, 'finish') }}?</h2>
  <template v-if="path.length > 0">
    <p>
      <template v-if="last"
        >Because
        <ActButton kind="noun" @click="ui.select(last.id, { show: true })"
          >{{ last.code }} {{ last.name }}</ActButton
        >
        ends then, at the end of the longest path</template
      ><template v-if="against">, {{ against }}</template
      >.
    </p>
    <h3>
      The longest path, {{ path.length }} activities
      <ActButton kind="noun" data-test="path-alone" @click="showAlone">Show it alone</ActButton>
    </h3>
    <p v-if="shown.length < path.length">
      <ActButton kind="noun" @click="unfolded = true"
        >{{ path.length - shown.length }} before these</ActButton
      >
    </p>
    <ol class="path" data-test="longest-path">
      <li v-for="one in shown" :key="one.id">
        <span class="code">{{ one.code }}</span>
        <ActButton kind="noun" class="name" @click="ui.select(one.id, { show: true })">{{
          one.name
        }}</ActButton>
        <span class="soft">{{ one.when }}</span>
      </li>
    </ol>
    <template v-if="why">
      <h3>
        Tightest:
        <ActButton kind="noun" @click="ui.select(plan.activities[tightest]!.id, { show: true })"
          >{{ plan.activities[tightest]!.code }} {{ plan.activities[tightest]!.name }}</ActButton
        >
      </h3>
      <p data-test="tightest"><SentenceText :sentence="why" /></p>
    </template>
  </template>
  <p v-else class="soft">There is nothing in the plan that has dates.</p>
  <p class="soft">Select an activity or a group for its own why.</p>
</template>

<style scoped>
.title {
  margin: 6px 0 2px;
}
h3 {
  margin: 14px 0 4px;
  display: flex;
  justify-content: space-between;
  gap: 10px;
}
.path {
  list-style: none;
  margin: 4px 0;
  padding: 0 0 0 8px;
  border-left: 3px solid var(--ink);
}
.path li {
  display: grid;
  grid-template-columns: 38px minmax(0, 1fr) auto;
  gap: 6px;
  align-items: baseline;
  padding: 1px 0;
}
.name {
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  justify-self: start;
  max-width: 100%;
}
</style>
