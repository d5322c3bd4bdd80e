<script setup lang="ts">
import { computed, ref } from 'vue'
import { counted, instantWords, State, type Block } from '@geodrome/core'
import { api } from '../../api/client.ts'
import ActButton from '../../controls/ActButton.vue'
import FactTable from '../../controls/FactTable.vue'
import NumberField from '../../controls/NumberField.vue'
import { useQuestion } from '../../composables/useQuestion.ts'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { usePlanStore } from '../../stores/planStore.ts'

/** What is to be done in the next weeks, by owner, with what blocks each item. */
defineProps<{ calendars: CalendarLookup }>()
const emit = defineEmits<{ show: [activity: string] }>()
const plans = usePlanStore()
const weeks = ref(3)
const { answer: ahead, problem } = useQuestion('ahead', () => ({ weeks: weeks.value }))
const plan = computed(() => plans.viewPlan!)
const of = (i: number) => plan.value.activities[i]!
/** Of one owner at once. */
const MOST = 200
const NOBODY = 'Nobody named'
const byOwner = computed(() => {
  const by = new Map<string, NonNullable<typeof ahead.value>[number][]>()
  for (const one of ahead.value ?? []) {
    const who = of(one.activity).owner || NOBODY
    by.set(who, [...(by.get(who) ?? []), one])
  }
  return [...by].sort(([a], [b]) => Number(a === NOBODY) - Number(b === NOBODY) || a.localeCompare(b, 'en'))
})
const blocked = computed(() => (ahead.value ?? []).filter(({ blocks }) => blocks.length > 0).length)
const title = computed(() => {
  const n = ahead.value?.length ?? 0
  if (ahead.value === null) return 'Looking ahead …'
  if (n === 0) return `Nothing is planned in the next ${counted(weeks.value, 'week')}.`
  return `${counted(n, 'activity')} in the next ${counted(weeks.value, 'week')}, ${blocked.value === 0 ? 'nothing blocks any' : `${blocked.value} ${blocked.value === 1 ? 'is' : 'are'} blocked`}.`
})
const WHAT: Readonly<Record<Block['kind'], string>> = {
  work: '',
  decision: 'the decision ',
  payment: 'the payment ',
  date: 'a date',
}
const until = (block: Block): string => instantWords(block.until, block.kind === 'date' ? 'start' : 'finish')
const fileOf = (kind: 'xlsx' | 'csv'): string =>
  api.recordUrl(plans.planId!, 'progress', kind, {
    of: plans.meant,
    weeks: weeks.value,
    ...(kind === 'csv' ? { table: 'Look-ahead' } : {}),
  })
const print = (): void => window.print()
</script>

<template>
  <section class="ahead scroll">
    <header>
      <h1 data-test="ahead-title">{{ title }}</h1>
      <div class="choices">
        <span>Weeks</span>
        <NumberField v-model="weeks" label="Weeks to look ahead" :min="1" :max="52" />
        <a class="noun" :href="fileOf('csv')" download data-test="ahead-csv">CSV</a>
        <a class="noun" :href="fileOf('xlsx')" download>XLSX</a>
        <ActButton @click="print">Print</ActButton>
      </div>
    </header>
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
    <section v-for="[who, ones] in byOwner" :key="who" data-test="ahead-owner">
      <h2>
        {{ who }} <small class="soft">{{ counted(ones.length, 'activity') }}</small>
      </h2>
      <FactTable>
        <thead>
          <tr>
            <th>Activity</th>
            <th>Start</th>
            <th>Finish</th>
            <th>Waits for</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in ones.slice(0, MOST)" :key="of(one.activity).id">
            <td>
              <ActButton kind="noun" @click="emit('show', of(one.activity).id)"
                ><span class="code">{{ of(one.activity).code }}</span></ActButton
              >
              {{ of(one.activity).name }}
            </td>
            <td>{{ instantWords(plans.view!.start[one.activity]!, 'start') }}</td>
            <td>{{ instantWords(plans.view!.finish[one.activity]!, 'finish') }}</td>
            <td>
              <span v-for="(block, k) in one.blocks" :key="k" class="block">
                {{ WHAT[block.kind]
                }}<template v-if="block.kind !== 'date'"
                  ><ActButton kind="noun" @click="emit('show', of(block.activity).id)">{{
                    of(block.activity).code
                  }}</ActButton>
                  {{ of(block.activity).name }}</template
                >, {{ until(block) }}
              </span>
              <span v-if="one.blocks.length === 0" class="soft">{{
                plans.view!.state[one.activity] === State.Started ? 'under way' : 'nothing'
              }}</span>
            </td>
          </tr>
        </tbody>
      </FactTable>
      <p v-if="ones.length > MOST" class="soft">and {{ ones.length - MOST }} more; the file has them all.</p>
    </section>
  </section>
</template>

<style scoped>
.ahead {
  flex: 1;
  padding: 12px 18px 30px;
  display: flex;
  flex-direction: column;
  gap: 12px;
}
header {
  display: flex;
  justify-content: space-between;
  gap: 20px;
}
.choices {
  display: flex;
  align-items: center;
  gap: 10px;
}
.choices > :nth-child(2) {
  width: 64px;
}
h2 small {
  font-weight: 400;
  font-size: 13.5px;
  margin-left: 8px;
}
.block {
  display: block;
}
:deep(:is(th, td)) {
  padding: 4px 14px 4px 0;
  vertical-align: top;
}
:deep(:is(th, td):nth-child(1)) {
  width: 34%;
}
:deep(:is(th, td):nth-child(2)),
:deep(:is(th, td):nth-child(3)) {
  width: 16%;
}
@media print {
  .ahead {
    display: block;
    overflow: visible;
    padding: 0;
  }
  .choices {
    display: none;
  }
}
</style>
