<script setup lang="ts">
import { computed, onBeforeUnmount, reactive, ref, watch } from 'vue'
import {
  counted,
  durationWords,
  instantOf,
  instantWords,
  mayDo,
  ROLES,
  type FactsOfPlan,
  type PlanSummary,
} from '@geodrome/core'
import { api } from '../../api/client.ts'
import ActButton from '../../controls/ActButton.vue'
import ChoiceField from '../../controls/ChoiceField.vue'
import FactTable from '../../controls/FactTable.vue'
import TextField from '../../controls/TextField.vue'
import TickBox from '../../controls/TickBox.vue'
import { optionsOf } from '../../controls/options.ts'
import PlanChains from './PlanChains.vue'

/** The plans with what each comes to: found by name, sorted by what is asked, put away when it is over. */
const props = defineProps<{
  plans: readonly PlanSummary[]
  /** Changes that wait in this browser, by plan: they are sent when it is opened. */
  waiting: ReadonlyMap<string, number>
}>()
const emit = defineEmits<{
  remove: [plan: PlanSummary]
  copy: [plan: PlanSummary]
  archive: [plan: PlanSummary, archived: boolean]
}>()

/** What is known of each, as of the revision that is listed; a problem where it cannot be had. */
const facts = reactive(new Map<string, FactsOfPlan | { readonly problem: string }>())
const AT_ONCE = 2
let isHere = true
onBeforeUnmount(() => (isHere = false))
const known = ({ id, revision }: PlanSummary): FactsOfPlan | null => {
  const found = facts.get(id)
  return found && 'revision' in found && found.revision >= revision ? found : null
}
const askAll = async (plans: readonly PlanSummary[]): Promise<void> => {
  const rest = [...plans]
  const ask = async (): Promise<void> => {
    for (let next = rest.shift(); next && isHere; next = rest.shift())
      try {
        facts.set(next.id, await api.facts(next.id))
      } catch (error) {
        facts.set(next.id, { problem: (error as Error).message })
      }
  }
  await Promise.all(Array.from({ length: AT_ONCE }, ask))
}
watch(
  () => props.plans,
  (plans) => void askAll(plans.filter((plan) => known(plan) === null)),
  { immediate: true },
)

const ORDERS = [
  ['changed', 'latest change first'],
  ['short', 'furthest behind first'],
  ['finish', 'earliest finish first'],
  ['name', 'by name'],
] as const
const order = ref<(typeof ORDERS)[number][0]>('changed')
const search = ref('')
const withArchived = ref(false)
const archivedCount = computed(() => props.plans.filter(({ archived }) => archived).length)

/** What is unknown stands last. */
const MEASURES: Readonly<Record<(typeof ORDERS)[number][0], (plan: PlanSummary) => number | string>> = {
  changed: ({ changedAt }) => -Date.parse(changedAt),
  short: (plan) => -(known(plan)?.short ?? -Infinity),
  finish: (plan) => {
    const finish = known(plan)?.finish
    return finish ? instantOf(finish, 'finish') : Infinity
  },
  name: ({ name, code }) => (name || code).toLowerCase(),
}
const shown = computed(() => {
  const words = search.value.toLowerCase().split(/\s+/).filter(Boolean)
  const measure = MEASURES[order.value]
  return props.plans
    .filter(({ archived }) => withArchived.value || !archived)
    .filter(({ name, code }) => words.every((word) => `${code} ${name}`.toLowerCase().includes(word)))
    .map((plan) => ({ plan, by: measure(plan) }))
    .sort((a, b) => (a.by < b.by ? -1 : a.by > b.by ? 1 : 0))
    .map(({ plan }) => plan)
})

/** Those of them whose critical chain was agreed. */
const chains = computed(() =>
  shown.value.flatMap((plan) => {
    const chain = known(plan)?.chain ?? null
    return chain === null ? [] : [{ plan, chain }]
  }),
)
const day = (date: string): string =>
  instantWords(instantOf(date, 'finish'), 'finish', { time: false, year: true })
const distance = ({ short, dayMinutes, required }: FactsOfPlan): string => {
  if (short === null || required === null) return 'none required'
  const length = durationWords(Math.abs(short), { dayMinutes })
  return short > 0 ? `${length} short` : short < 0 ? `${length} to spare` : 'kept, nothing to spare'
}
const found = ({ findings, movers }: FactsOfPlan): string =>
  findings === null
    ? ''
    : findings === 0
      ? 'none open'
      : `${findings} open${movers === 0 ? '' : `, ${movers} ${movers === 1 ? 'moves' : 'move'} the answer`}`
const when = (iso: string): string =>
  new Date(iso).toLocaleString('en-GB', {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  })
const noDates = (plan: PlanSummary): string => {
  const one = facts.get(plan.id)
  if (one && !('revision' in one)) return `not known: ${one.problem}`
  const own = known(plan)
  if (!own) return 'looking …'
  return own.problem === null ? 'nothing in it yet' : `no dates: ${own.problem}`
}
</script>

<template>
  <div class="choices">
    <TextField v-model="search" class="search" label="Find a plan" placeholder="Find by name or code" />
    <ChoiceField v-model="order" class="order" label="Order of the plans" :options="optionsOf(ORDERS)" />
    <TickBox v-if="archivedCount > 0" v-model="withArchived" data-test="with-archived">
      with the {{ archivedCount }} put away
    </TickBox>
  </div>
  <FactTable class="plans" name="Plans" data-test="plans">
    <thead>
      <tr>
        <th colspan="2">Plan</th>
        <th>Finish planned</th>
        <th>Against the required</th>
        <th>P80</th>
        <th>Review</th>
        <th>Changed</th>
        <td />
      </tr>
    </thead>
    <tbody>
      <tr v-for="plan in shown" :key="plan.id" :class="{ archived: plan.archived }">
        <td class="code soft">{{ plan.code }}</td>
        <td class="name">
          <RouterLink :to="{ name: 'network', params: { id: plan.id } }" class="noun"
            ><strong>{{ plan.name || 'Plan without a name' }}</strong></RouterLink
          >
          <span v-if="plan.archived" class="soft"> put away</span>
          <span v-if="!mayDo(plan.role, 'manage')" class="soft"> you are {{ ROLES[plan.role].words }}</span>
          <span v-if="waiting.has(plan.id)" class="signal" data-test="waiting">
            {{ counted(waiting.get(plan.id)!, 'change') }} made here not stored yet: open it to send
            {{ waiting.get(plan.id) === 1 ? 'it' : 'them' }}
          </span>
        </td>
        <template v-for="own in [known(plan)]" :key="own?.revision ?? 0">
          <template v-if="own?.finish">
            <td :data-iso="own.finish">{{ day(own.finish) }}</td>
            <td :class="{ short: (own.short ?? 0) > 0 }">{{ distance(own) }}</td>
            <td>
              {{ own.p80 ? day(own.p80.date) : 'not run'
              }}<small v-if="own.p80?.isPast" class="soft"> before later changes</small>
            </td>
            <td>{{ found(own) }}</td>
          </template>
          <td v-else colspan="4" class="soft">{{ noDates(plan) }}</td>
        </template>
        <td class="soft" :data-iso="plan.changedAt">{{ when(plan.changedAt) }}</td>
        <td class="acts">
          <ActButton kind="bare" class="soft" :aria-label="`Copy ${plan.name}`" @click="emit('copy', plan)"
            >Copy</ActButton
          >
          <ActButton
            v-if="mayDo(plan.role, 'manage')"
            kind="bare"
            class="soft"
            :aria-label="`${plan.archived ? 'Take out again' : 'Put away'}: ${plan.name}`"
            @click="emit('archive', plan, !plan.archived)"
            >{{ plan.archived ? 'Take out' : 'Put away' }}</ActButton
          >
          <ActButton
            v-if="mayDo(plan.role, 'manage')"
            kind="bare"
            class="soft"
            :aria-label="`Remove ${plan.name}`"
            @click="emit('remove', plan)"
            >Remove</ActButton
          >
        </td>
      </tr>
      <tr v-if="shown.length === 0">
        <td colspan="8" class="soft">
          {{
            plans.length === 0
              ? 'No plans yet. Begin one, import a plan file, or read a list.'
              : search.trim() !== ''
                ? `No plan has “${search.trim()}” in its name or code.`
                : 'All plans are put away.'
          }}
        </td>
      </tr>
    </tbody>
  </FactTable>
  <PlanChains v-if="chains.length > 0" :plans="chains" />
</template>

<style scoped>
.choices {
  display: flex;
  gap: 14px;
  align-items: center;
  margin-top: 10px;
}
.search {
  width: 240px;
}
.order {
  width: 210px;
}
.plans th,
.plans td {
  padding: 9px 10px 9px 0;
  vertical-align: baseline;
}
.plans thead th,
.plans thead td {
  border-bottom: 1.5px solid var(--ink);
  white-space: nowrap;
}
.name {
  max-width: 280px;
  overflow-wrap: anywhere;
}
.name .signal {
  display: block;
  font-size: 12.5px;
}
.short {
  font-weight: 650;
}
.archived strong {
  font-weight: 400;
}
.acts > * + * {
  margin-left: 12px;
}
.acts {
  white-space: nowrap;
  text-align: right;
}
</style>
