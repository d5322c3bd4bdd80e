<script setup lang="ts">
import { computed, ref } from 'vue'
import {
  amountWords,
  counted,
  doneTogether,
  durationWords,
  groupsAround,
  groupVariance,
  instantWords,
  NONE,
  roundMoneyWords,
} from '@geodrome/core'
import { api } from '../../api/client.ts'
import ActButton from '../../controls/ActButton.vue'
import ChoiceField from '../../controls/ChoiceField.vue'
import FactTable from '../../controls/FactTable.vue'
import { optionsOf } from '../../controls/options.ts'
import { useQuestion } from '../../composables/useQuestion.ts'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { usePlanStore } from '../../stores/planStore.ts'

/** What is other than was agreed: by how much, on whose account, and whether it reaches the finish. */
const props = defineProps<{ calendars: CalendarLookup }>()
const emit = defineEmits<{ show: [activity: string]; freeze: [] }>()
const plans = usePlanStore()
const { answer: view, problem } = useQuestion('variance', () => ({}))
const plan = computed(() => plans.viewPlan!)
const { answer: done } = useQuestion('done', () => ({}))

const ORDERS = [
  ['matters', 'what matters first'],
  ['finish', 'latest finish first'],
  ['cost', 'dearest first'],
  ['list', 'in the order of the list'],
  ['groups', 'by group'],
] as const
/** In what order activities stand, or groups in their place. */
const order = ref<(typeof ORDERS)[number][0]>('matters')
const days = (minutes: number): string =>
  minutes === NONE
    ? '–'
    : minutes === 0
      ? '0'
      : `${minutes > 0 ? '+' : '−'}${durationWords(Math.abs(minutes), props.calendars.projectLengths)}`
const name = computed(() => view.value?.baseline.name || 'the baseline')
const title = computed(() => {
  const v = view.value
  if (!v) return ''
  if (v.projectFinish === NONE) return `${name.value} says nothing of the finish.`
  const finish = instantWords(plans.view!.projectFinish, 'finish')
  const agreed = instantWords(v.agreedProjectFinish, 'finish')
  if (v.projectFinish === 0) return `The finish is where ${name.value} has it: ${finish}.`
  const by = durationWords(Math.abs(v.projectFinish), props.calendars.projectLengths)
  return `The finish, ${finish}, is ${by} ${v.projectFinish > 0 ? 'later' : 'earlier'} than ${name.value}: ${agreed}.`
})
const summary = computed(() => {
  const v = view.value
  if (!v) return ''
  const late = v.finish.filter((by) => by > 0).length
  const early = v.finish.filter((by) => by < 0 && by !== NONE).length
  const cost = v.cost.reduce((sum, by) => (Number.isNaN(by) ? sum : sum + by), 0)
  const money =
    cost === 0
      ? ''
      : `, ${roundMoneyWords(Math.abs(cost), plan.value.project.currency)} ${cost > 0 ? 'dearer' : 'cheaper'}`
  const added = v.added === 0 ? '' : `; ${counted(v.added, 'activity')} not in it`
  return `${late} later, ${early} earlier${money}${added}.`
})
/** On whose account each late activity is. */
const accountOf = computed(() => {
  const by = new Map<number, { readonly root: number; readonly reaches: boolean }>()
  for (const { activities, reachesFinish } of view.value?.accounts ?? [])
    for (const i of activities) by.set(i, { root: activities[0]!, reaches: reachesFinish })
  return by
})
const MOST = 400
const fileOf = (kind: 'xlsx' | 'csv'): string =>
  api.recordUrl(plans.planId!, 'progress', kind, {
    of: plans.meant,
    ...(kind === 'csv' ? { table: 'Variance' } : {}),
  })
const rows = computed(() => {
  const v = view.value
  if (!v) return []
  const all = plan.value.activities
    .map((_, i) => i)
    .filter((i) => v.agreedFinish[i] !== NONE)
    .filter(
      (i) => order.value === 'list' || v.finish[i] !== 0 || v.start[i] !== 0 || Math.abs(v.cost[i]!) > 0.5,
    )
  const late = (i: number): number => (v.finish[i] === NONE ? -Infinity : v.finish[i]!)
  const cost = (i: number): number => (Number.isNaN(v.cost[i]!) ? -Infinity : v.cost[i]!)
  if (order.value === 'finish') all.sort((a, b) => late(b) - late(a))
  if (order.value === 'cost') all.sort((a, b) => cost(b) - cost(a))
  if (order.value === 'matters') {
    // What reaches the finish first, then by account, the one on whose account it is on top.
    const rank = new Map<number, number>()
    const accounts = [...v.accounts].sort((a, b) => Number(b.reachesFinish) - Number(a.reachesFinish))
    accounts.flatMap(({ activities }) => activities).forEach((i, k) => rank.set(i, k))
    all.sort((a, b) => (rank.get(a) ?? 1e9) - (rank.get(b) ?? 1e9) || late(b) - late(a))
  }
  return all
})
/** Groups that the baseline knows something of, in the order of the outline; the members of a group are those of the groups in it, too. */
const groups = computed(() => {
  const v = view.value
  if (!v) return []
  const members = new Map<string, number[]>()
  const around = groupsAround(plan.value)
  plan.value.activities.forEach(({ group }, i) => {
    for (const one of around(group)) {
      const known = members.get(one)
      if (known) known.push(i)
      else members.set(one, [i])
    }
  })
  const agreed = (i: number): { start: number | null; finish: number | null } => ({
    start: v.agreedStart[i] === NONE ? null : v.agreedStart[i]!,
    finish: v.agreedFinish[i] === NONE ? null : v.agreedFinish[i]!,
  })
  return plan.value.groups.flatMap(({ id, name, code }) => {
    const own = members.get(id) ?? []
    const found = groupVariance(own, agreed, plans.view!, props.calendars.project)
    if (found === null) return []
    const cost = own.reduce((sum, i) => (Number.isNaN(v.cost[i]!) ? sum : sum + v.cost[i]!), 0)
    const share = done.value && doneTogether(done.value, own)
    return [
      {
        id,
        name: name || code || 'without a name',
        found,
        now: Math.max(...own.map((i) => plans.view!.finish[i]!)),
        cost,
        done: share === null ? '–' : `${Math.floor(share * 100)} %`,
      },
    ]
  })
})
const codeOf = (i: number): string => plan.value.activities[i]!.code
const account = (i: number): string => {
  const found = accountOf.value.get(i)
  if (!found) return ''
  const own = found.root === i ? 'its own' : codeOf(found.root)
  return found.reaches ? `${own}, reaches the finish` : own
}
</script>

<template>
  <section class="variance scroll">
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
    <template v-if="plan.baselines.length === 0">
      <h1>Nothing was agreed yet.</h1>
      <p class="soft first">
        Freeze a baseline: dates, durations, floats and costs as they are now. From then on every later plan
        is measured against it.
      </p>
      <p><ActButton kind="primary" @click="emit('freeze')">To the baselines</ActButton></p>
    </template>
    <template v-else-if="view">
      <header>
        <div>
          <h1 data-test="variance-title">{{ title }}</h1>
          <p class="soft" data-test="variance-sum">{{ summary }}</p>
        </div>
        <ChoiceField v-model="order" class="order" label="Order" :options="optionsOf(ORDERS)" />
      </header>
      <FactTable
        v-if="order === 'groups' && groups.length > 0"
        name="Variance by group"
        data-test="variance-groups"
      >
        <thead>
          <tr>
            <th>Group</th>
            <th>Agreed</th>
            <th>Now</th>
            <th class="right">Start</th>
            <th class="right">Finish</th>
            <th class="right">{{ plan.project.currency }}</th>
            <th class="right">Done</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in groups" :key="one.id">
            <td>{{ one.name }}</td>
            <td>{{ instantWords(one.found.agreedFinish, 'finish') }}</td>
            <td>{{ instantWords(one.now, 'finish') }}</td>
            <td class="right">{{ days(one.found.start) }}</td>
            <td class="right">
              <strong>{{ days(one.found.finish) }}</strong>
            </td>
            <td class="right">{{ amountWords(Math.round(one.cost)) }}</td>
            <td class="right">{{ one.done }}</td>
          </tr>
        </tbody>
      </FactTable>
      <p v-else-if="order === 'groups'" class="soft">No group has work that was agreed.</p>
      <FactTable v-else-if="rows.length > 0" data-test="variance-rows">
        <thead>
          <tr>
            <th colspan="2">Activity</th>
            <th>Agreed</th>
            <th>Now</th>
            <th class="right">Start</th>
            <th class="right">Finish</th>
            <th class="right">Duration</th>
            <th class="right">Float</th>
            <th class="right">{{ plan.project.currency }}</th>
            <th>On whose account</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="i in rows.slice(0, MOST)" :key="plan.activities[i]!.id">
            <td class="code">
              <ActButton kind="noun" @click="emit('show', plan.activities[i]!.id)">{{ codeOf(i) }}</ActButton>
            </td>
            <td>{{ plan.activities[i]!.name }}</td>
            <td>{{ instantWords(view.agreedFinish[i]!, 'finish') }}</td>
            <td>{{ instantWords(plans.view!.finish[i]!, 'finish') }}</td>
            <td class="right">{{ days(view.start[i]!) }}</td>
            <td class="right">
              <strong>{{ days(view.finish[i]!) }}</strong>
            </td>
            <td class="right">
              {{
                view.duration[i] === NONE || view.duration[i] === 0
                  ? days(view.duration[i]!)
                  : `${view.duration[i]! > 0 ? '+' : '−'}${durationWords(Math.abs(view.duration[i]!), calendars.lengthsOf(plan.activities[i]!))}`
              }}
            </td>
            <td class="right">
              {{
                view.float[i] === NONE || view.float[i] === 0
                  ? days(view.float[i]!)
                  : `${view.float[i]! > 0 ? '+' : '−'}${durationWords(Math.abs(view.float[i]!), calendars.lengthsOf(plan.activities[i]!))}`
              }}
            </td>
            <td class="right">
              {{ Number.isNaN(view.cost[i]!) ? '–' : amountWords(Math.round(view.cost[i]!)) }}
            </td>
            <td class="soft">{{ account(i) }}</td>
          </tr>
        </tbody>
      </FactTable>
      <p v-else class="soft">Nothing is on another date, and nothing costs more or less.</p>
      <p v-if="order !== 'groups'" class="soft">
        <template v-if="rows.length > MOST">and {{ counted(rows.length - MOST, 'more') }}. </template>All as
        <a class="noun" :href="fileOf('csv')" download data-test="variance-csv">CSV</a> or
        <a class="noun" :href="fileOf('xlsx')" download>XLSX</a>, with dates and minutes.
      </p>
      <p class="soft">
        Start and finish in working time of {{ calendars.name(plan.project.calendar) }}, duration and float in
        that of the activity; + is later, longer, more. – : the baseline does not say.
      </p>
    </template>
    <p v-else class="soft">Working it out …</p>
  </section>
</template>

<style scoped>
.variance {
  flex: 1;
  padding: 12px 18px 30px;
  display: flex;
  flex-direction: column;
  gap: 10px;
}
.first {
  max-width: 560px;
}
header {
  display: flex;
  justify-content: space-between;
  gap: 20px;
}
.order {
  width: 210px;
  flex: none;
}
:deep(:is(th, td)) {
  padding: 4px 12px 4px 0;
  vertical-align: top;
}
:deep(th.right) {
  text-align: right;
}
</style>
