<script setup lang="ts">
import { computed } from 'vue'
import {
  counted,
  durationWords,
  instantOf,
  instantWords,
  type MovedTogether,
  type UpdatePreview,
} from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { finishWords } from '../../composables/finishWords.ts'
import { usePlanStore } from '../../stores/planStore.ts'

/** What an update would move, before it is applied. */
const props = defineProps<{
  preview: UpdatePreview | null
  /** Ids of what was asked and not answered. */
  open: readonly string[]
  calendars: CalendarLookup
  status: number
  isKeeping: boolean
}>()
const emit = defineEmits<{ keep: []; show: [activity: string] }>()
const plans = usePlanStore()
const plan = computed(() => plans.viewPlan!)
const codeOf = (i: number): string => plan.value.activities[i]!.code
const idOf = (i: number): string => plan.value.activities[i]!.id
const title = computed(() => {
  const p = props.preview
  if (!p) return 'Working it out …'
  const finish = instantWords(p.finish, 'finish')
  const other =
    p.otherReading && p.otherReading.finish !== p.finish
      ? `, or is ${instantWords(p.otherReading.finish, 'finish')} if ${p.otherReading.rule === 'follow' ? 'the work is followed' : 'the links hold'}`
      : ''
  if (p.finish === p.finishBefore) return `The finish stays ${finish}${other}.`
  return `${finishWords(p.finishBefore, p.finish, props.calendars).replace(/^finish/, 'The finish is')}: ${finish}${other}.`
})
const against = computed(() => {
  const { requiredFinish } = plan.value.project
  if (requiredFinish === null || !props.preview) return ''
  const required = instantOf(requiredFinish, 'finish')
  const { project, projectLengths } = props.calendars
  const spare = project.countBefore(required) - project.countBefore(props.preview.finish)
  return `required ${instantWords(required, 'finish', { time: false })}: ${durationWords(Math.abs(spare), projectLengths)} ${spare < 0 ? 'short' : 'to spare'}`
})
const MOST = 8
const lines = (list: readonly MovedTogether[]) =>
  list.slice(0, MOST).map(({ activities, by }) => ({
    first: activities[0]!,
    then: activities.slice(1, 4),
    more: Math.max(0, activities.length - 4),
    by: durationWords(Math.abs(by), props.calendars.projectLengths),
  }))
const countOf = (list: readonly MovedTogether[]): number =>
  list.reduce((sum, { activities }) => sum + activities.length, 0)
const codes = (list: readonly number[]): string =>
  list.length > 6
    ? `${list.slice(0, 5).map(codeOf).join(', ')} and ${list.length - 5} more`
    : list.map(codeOf).join(', ')
const promisers = computed(() => {
  const by = new Map<string, { kept: number; all: number; codes: string[] }>()
  for (const { activity, kept } of props.preview?.promises ?? []) {
    const { code, promise, owner } = plan.value.activities[activity]!
    const who = promise?.by || owner || 'nobody named'
    const known = by.get(who) ?? { kept: 0, all: 0, codes: [] }
    by.set(who, { kept: known.kept + (kept ? 1 : 0), all: known.all + 1, codes: [...known.codes, code] })
  }
  return [...by]
})
const openCodes = computed(() =>
  props.open.slice(0, 8).map((id) => plan.value.activities.find((a) => a.id === id)?.code ?? ''),
)
</script>

<template>
  <aside class="side-pane scroll" aria-label="Before the update is applied">
    <p class="soft">Before the update is applied</p>
    <h2 data-test="update-finish">{{ title }}</h2>
    <p v-if="against" class="soft">{{ against }}</p>
    <template v-if="preview">
      <p v-if="preview.behind.length === 0">Nothing that is left lies behind the new status date.</p>
      <p v-else class="brick">
        {{ counted(preview.behind.length, 'activity') }} would lie behind the status date, held there by a
        date: {{ codes(preview.behind) }}.
      </p>
      <template
        v-for="[word, list] in [
          ['later', preview.later],
          ['earlier', preview.earlier],
        ] as const"
        :key="word"
      >
        <template v-if="list.length > 0">
          <h3>{{ counted(countOf(list), 'activity') }} {{ word }}</h3>
          <ul>
            <li v-for="line in lines(list)" :key="line.first" class="moved">
              <span
                ><ActButton kind="noun" @click="emit('show', idOf(line.first))">{{
                  codeOf(line.first)
                }}</ActButton
                ><template v-if="line.then.length > 0"
                  >, then {{ line.then.map(codeOf).join(' ')
                  }}{{ line.more > 0 ? ` and ${line.more} more` : '' }}</template
                ></span
              >
              <span>{{ line.by }}</span>
            </li>
            <li v-if="list.length > MOST" class="soft">and {{ list.length - MOST }} more</li>
          </ul>
        </template>
      </template>
      <p v-if="preview.moved === 0" class="soft">Nothing moves.</p>
      <h3>Longest path</h3>
      <p v-if="preview.joinedLongestPath.length + preview.leftLongestPath.length === 0">It runs as before.</p>
      <p v-else>
        <template v-if="preview.joinedLongestPath.length > 0"
          >{{ codes(preview.joinedLongestPath) }} joined it. </template
        ><template v-if="preview.leftLongestPath.length > 0"
          >{{ codes(preview.leftLongestPath) }} left it.</template
        >
      </p>
      <template v-if="promisers.length > 0">
        <h3>Promises until then</h3>
        <ul>
          <li v-for="[who, one] in promisers" :key="who" class="moved">
            <span>{{ who }}, {{ one.codes.join(', ') }}</span>
            <strong>kept {{ one.kept }} of {{ one.all }}</strong>
          </li>
        </ul>
      </template>
      <template v-if="open.length > 0">
        <h3>Not yet answered</h3>
        <p>
          {{ openCodes.join(', ') }}{{ open.length > 8 ? ` and ${open.length - 8} more` : '' }}. Kept like
          this, what has not begun waits for the new status date, and what is under way keeps what is left of
          it.
        </p>
      </template>
      <div class="actions">
        <ActButton
          kind="primary"
          :disabled="isKeeping || plans.whyNotPlan !== ''"
          data-test="keep-update"
          @click="emit('keep')"
          >Apply the update</ActButton
        >
      </div>
      <p class="soft">
        Saved as a period: {{ instantWords(status, 'start', { time: false }) }}. What was typed waits here
        until then; one undo takes the update back.
      </p>
      <p v-if="plans.whyNotPlan" class="signal">An update is of the plan. {{ plans.whyNotPlan }}</p>
    </template>
  </aside>
</template>

<style scoped>
h3 {
  border-top: 1px solid var(--hairline);
  padding-top: 10px;
  margin-top: 6px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.moved {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  padding: 1px 0;
}
.moved > :last-child {
  white-space: nowrap;
}
.actions {
  padding-top: 6px;
}
</style>
