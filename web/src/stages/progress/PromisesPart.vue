<script setup lang="ts">
import { computed } from 'vue'
import { counted, instantOf, instantWords, promisesOf, State, type PromiseState } from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import FactTable from '../../controls/FactTable.vue'
import { useAttempt } from '../../composables/useAttempt.ts'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { usePlanStore } from '../../stores/planStore.ts'

/** Who promised what, and what became of it. */
defineProps<{ calendars: CalendarLookup }>()
const emit = defineEmits<{ show: [activity: string] }>()
const plans = usePlanStore()
const { problem, attempt } = useAttempt()
const WORDS: Readonly<Record<PromiseState, string>> = {
  kept: 'kept',
  missed: 'missed',
  late: 'will not be kept',
  wish: 'not started: a wish',
  past: 'past, and not done',
  open: 'open',
}
const all = computed(() =>
  promisesOf(plans.viewPlan!, plans.view!).map((one) => ({
    ...one,
    of: plans.viewPlan!.activities[one.activity]!,
  })),
)
const byWho = computed(() => {
  const by = new Map<string, typeof all.value>()
  for (const one of all.value) by.set(one.by, [...(by.get(one.by) ?? []), one])
  return [...by].sort(([a], [b]) => a.localeCompare(b, 'en'))
})
const tally = (ones: typeof all.value): string => {
  const count = (state: PromiseState): number => ones.filter((one) => one.state === state).length
  const [kept, missed] = [count('kept'), count('missed')]
  const open = ones.length - kept - missed
  const due = kept + missed === 0 ? '' : `kept ${kept} of ${kept + missed}`
  return [due, open === 0 ? '' : `${open} open`].filter(Boolean).join(', ')
}
const title = computed(() => {
  if (all.value.length === 0) return 'Nobody has promised a date.'
  return `${counted(all.value.length, 'promise')}: ${tally(all.value)}.`
})
const isDone = (i: number): boolean => plans.view!.state[i] === State.Finished
const withdraw = (id: string): void =>
  void attempt(() => plans.edit({ kind: 'set', list: 'activities', key: id, set: { promise: null } }))
</script>

<template>
  <section class="promises scroll">
    <h1 data-test="promises-title">{{ title }}</h1>
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
    <p class="soft first">
      A promise says when work that is under way will be done; what is left follows from it, and the planned
      duration stays. It is given in the Update, and comes off without a trace.
    </p>
    <section v-for="[who, ones] in byWho" :key="who" data-test="promiser">
      <h2>
        {{ who }} <small class="soft">{{ tally(ones) }}</small>
      </h2>
      <FactTable :name="`Promises of ${who}`">
        <thead>
          <tr>
            <th>Activity</th>
            <th>Promised</th>
            <th>{{ 'Planned or done' }}</th>
            <th>State</th>
            <th />
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in ones" :key="one.of.id">
            <td>
              <ActButton kind="noun" @click="emit('show', one.of.id)"
                ><span class="code">{{ one.of.code }}</span></ActButton
              >
              {{ one.of.name }}
            </td>
            <td>{{ instantWords(instantOf(one.finish, 'finish'), 'finish') }}</td>
            <td>{{ instantWords(plans.view!.finish[one.activity]!, 'finish') }}</td>
            <td>
              <strong>{{ WORDS[one.state] }}</strong>
            </td>
            <td>
              <ActButton v-if="!isDone(one.activity)" @click="withdraw(one.of.id)">Withdraw</ActButton>
            </td>
          </tr>
        </tbody>
      </FactTable>
    </section>
  </section>
</template>

<style scoped>
.promises {
  flex: 1;
  padding: 12px 18px 30px;
  display: flex;
  flex-direction: column;
  gap: 10px;
  max-width: 980px;
}
.first {
  max-width: 620px;
}
h2 small {
  font-weight: 400;
  font-size: 13.5px;
  margin-left: 8px;
}
:deep(:is(th, td)) {
  padding: 4px 12px 4px 0;
}
</style>
