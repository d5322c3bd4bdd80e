<script setup lang="ts">
import ActButton from '../../controls/ActButton.vue'
import FactTable from '../../controls/FactTable.vue'
import { NProgress } from 'naive-ui'
import { computed } from 'vue'
import {
  counted,
  durationWords,
  INTEGRITY_DELAY_DAYS,
  type IntegrityTest,
  type Swallow,
} from '@geodrome/core'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useReviewStore } from '../../stores/reviewStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'

const { calendars } = defineProps<{ calendars: CalendarLookup }>()
const emit = defineEmits<{ show: [activity: string] }>()
const plans = usePlanStore()
const store = useReviewStore()
const ui = useUiStore()

const lost = computed(() => store.tests.filter((t) => t.carries === 'lost'))
const stale = computed(() => store.tests.length > 0 && store.testedPlan !== plans.plan)
const title = computed(() => {
  if (store.testing) return 'Delaying one activity after the other …'
  if (store.tests.length === 0) return 'Does a delay arrive at the finish?'
  if (lost.value.length === 0)
    return `A delay of any of the ${counted(store.tests.length, 'activity')} tested arrives at the finish.`
  return `${lost.value.length} of the ${counted(store.tests.length, 'activity')} tested ${lost.value.length === 1 ? 'does' : 'do'} not carry a delay to the finish.`
})
const ordered = computed(() => [...store.tests].sort((a, b) => rank(b) - rank(a)))
const rank = (t: IntegrityTest): number => ({ lost: 3, grows: 2, rounded: 1, exact: 0 })[t.carries]
const days = (minutes: number): string => durationWords(minutes, calendars.projectLengths)
const code = (id: string): string => plans.activity(id)?.code ?? id
const BY: Record<Swallow['by'], (s: Swallow) => string> = {
  date: (s) => `${code(s.activity)} stands on a date that overrides logic`,
  actual: (s) => `${code(s.activity)} has actual dates that nothing moves`,
  float: (s) => `the link from ${code(s.from)} to ${code(s.activity)} has room`,
  calendar: (s) => `${code(s.activity)} waits for its calendar${s.minutes < 0 ? ', which adds' : ' anyway'}`,
}
const WORDS = {
  exact: 'arrives whole',
  rounded: 'arrives, but for waits',
  grows: 'arrives, and grows',
  lost: 'is lost on the way',
} as const
const NAMED = 2
/** What took or added most of it, and what all the rest comes to: together the difference between what was put in and what arrives. */
const causes = (t: IntegrityTest): { main: readonly Swallow[]; others: number; rest: number } => {
  const ordered = [...t.swallows].sort((a, b) => Math.abs(b.minutes) - Math.abs(a.minutes))
  const rest = ordered.slice(NAMED)
  return {
    main: ordered.slice(0, NAMED),
    others: rest.length,
    rest: rest.reduce((sum, { minutes }) => sum + minutes, 0),
  }
}
const calendarName = (id: string): string =>
  plans.plan!.calendars.find((c) => c.id === id)?.name || 'a calendar on the way'
const isBackward = computed(() => plans.plan!.project.direction === 'backward')
const focused = computed(() => (ui.focus && plans.activity(ui.focus) ? plans.activity(ui.focus)! : null))
</script>

<template>
  <h1 data-test="integrity-title">{{ title }}</h1>
  <p class="soft">
    Each activity that is critical or on the longest path is made {{ INTEGRITY_DELAY_DAYS }} of its days
    longer, on a copy. The finish must move by exactly that, in working time of the project. Where it does
    not, the delay is followed along its path to the link, date or calendar that takes it up.
  </p>
  <p v-if="isBackward">
    This plan is scheduled backward: its finish is given, and a delay moves the start instead. The test is for
    plans scheduled forward.
  </p>
  <p v-else class="buttons">
    <ActButton
      kind="primary"
      :disabled="store.testing !== null"
      data-test="test-all"
      @click="store.test('all')"
      >Test all of them</ActButton
    >
    <ActButton v-if="focused" :disabled="store.testing !== null" @click="store.test([focused.id])"
      >Test {{ focused.code }}</ActButton
    >
    <ActButton v-if="store.testing" @click="store.test(null)">Stop</ActButton>
  </p>
  <template v-if="store.testing">
    <NProgress
      type="line"
      :percentage="Math.round((store.testing.done / store.testing.total) * 100)"
      :show-indicator="false"
      :height="5"
      aria-label="Progress of the test"
    />
    <p class="soft" role="status">{{ store.testing.done }} of {{ store.testing.total }}</p>
  </template>
  <p v-if="stale" class="signal">The plan has changed since this test.</p>
  <FactTable v-if="store.tests.length > 0" ruled name="Delays tried">
    <thead>
      <tr>
        <th>Activity</th>
        <th class="right">Delayed by</th>
        <th class="right">Arrives</th>
        <th>The delay</th>
        <th>Where it goes</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="t in ordered" :key="t.activity" :class="{ heavy: t.carries === 'lost' }">
        <td>
          <ActButton kind="noun" @click="emit('show', t.activity)">{{ code(t.activity) }}</ActButton>
          {{ plans.activity(t.activity)?.name }}
        </td>
        <td class="right">
          {{ days(t.delay)
          }}<small v-if="t.shortOf !== null" class="soft">
            ({{ t.days }} of its days; {{ calendarName(t.shortOf) }} has no more)</small
          >
        </td>
        <td class="right">{{ days(t.arrives) }}</td>
        <td>{{ WORDS[t.carries] }}</td>
        <td class="soft">
          <span v-for="s in causes(t).main" :key="s.link"
            >{{ BY[s.by](s) }}: {{ days(Math.abs(s.minutes)) }}<br
          /></span>
          <span v-if="causes(t).others > 0"
            >{{ counted(causes(t).others, 'other place') }} on the way: {{ days(Math.abs(causes(t).rest)) }}
            {{ causes(t).rest > 0 ? 'less' : 'more' }}</span
          >
        </td>
      </tr>
    </tbody>
  </FactTable>
</template>

<style scoped>
.buttons {
  display: flex;
  gap: 8px;
  margin: 12px 0;
}
.heavy td {
  font-weight: 600;
}
.heavy .soft {
  font-weight: 400;
}
</style>
