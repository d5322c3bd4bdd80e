<script setup lang="ts">
import { ArrowDown, ArrowUp } from '@lucide/vue'
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import {
  counted,
  dateWords,
  drumOf,
  formatInstant,
  instantOf,
  mayDo,
  newScenario,
  type Plan,
  type PlanSummary,
  type SentChange,
  type Staggered,
} from '@geodrome/core'
import { api } from '../../api/client.ts'
import { useLongWork } from '../../composables/useLongWork.ts'
import ActButton from '../../controls/ActButton.vue'
import ChoiceField from '../../controls/ChoiceField.vue'
import FactTable from '../../controls/FactTable.vue'
import IconButton from '../../controls/IconButton.vue'
import TickBox from '../../controls/TickBox.vue'
import { authorName, clientId } from '../../stores/identity.ts'
import type { StaggerQuestion } from '../../workers/stagger.worker.ts'
import StaggerWorker from '../../workers/stagger.worker.ts?worker'
import StaggerDrawing from './StaggerDrawing.vue'
import { drumsOf, firstDrum, staggerTitle, whyWords } from './staggered.ts'

/** Several plans, staggered at the resource that they have in common: when each can begin, and what it would promise. */
interface Opened {
  readonly summary: PlanSummary
  readonly plan: Plan
}
/** Plans that take part from the beginning, those changed last; others are opened when they are taken in. */
const FIRST_OPENED = 12
const listed = shallowRef<readonly PlanSummary[]>([])
const plansById = shallowRef<ReadonlyMap<string, Plan>>(new Map())
const isOpen = ref(false)
const failure = ref('')
/** Ids of the plans, the first first; and those that are left out. */
const order = ref<readonly string[]>([])
const out = ref<ReadonlySet<string>>(new Set())
const drum = ref<string | null>(null)

const openPlans = async (summaries: readonly PlanSummary[]): Promise<void> => {
  const found = await Promise.all(
    summaries.map(async ({ id, revision }) => [id, await api.planAt(id, revision)] as const),
  )
  plansById.value = new Map([...plansById.value, ...found])
}
onMounted(async () => {
  try {
    const all = (await api.plans()).filter(({ archived }) => !archived)
    const latest = [...all].sort((a, b) => (a.changedAt < b.changedAt ? 1 : -1)).slice(0, FIRST_OPENED)
    await openPlans(latest)
    listed.value = all
    out.value = new Set(all.filter((one) => !latest.includes(one)).map(({ id }) => id))
    const due = ({ id }: PlanSummary): string => plansById.value.get(id)?.project.requiredFinish ?? '9'
    order.value = [...all]
      .sort((a, b) => (due(a) < due(b) ? -1 : due(a) > due(b) ? 1 : 0))
      .map(({ id }) => id)
    const plans = [...plansById.value.values()]
    drum.value = firstDrum(plans, drumsOf(plans))
    isOpen.value = true
  } catch (error) {
    failure.value = (error as Error).message
  }
})

const drums = computed(() => drumsOf([...plansById.value.values()]))
const drumOptions = computed(() =>
  drums.value.map(({ code, name, plans, busy }, k) => ({
    value: code,
    label: `${name === code ? code : `${code} ${name}`}, in ${counted(plans, 'plan')}${k === 0 && busy > 0 && plans > 1 ? ', the scarcest' : ''}`,
  })),
)
const drumName = computed(() => drums.value.find(({ code }) => code === drum.value)?.name ?? '')
const summaries = computed(() => new Map(listed.value.map((one) => [one.id, one])))
const ordered = computed(() => order.value.map((id) => summaries.value.get(id)!))
const asked = computed(() =>
  ordered.value.flatMap((summary): Opened[] => {
    const plan = plansById.value.get(summary.id)
    return plan && !out.value.has(summary.id) && usesDrum(plan) ? [{ summary, plan }] : []
  }),
)
/** Whether a plan has anything to do with it; others need no chain to be found. */
const usesDrum = (plan: Plan): boolean => {
  const resource = drum.value === null ? null : drumOf(plan, drum.value)
  return resource !== null && plan.assignments.some((one) => one.resource === resource.id)
}
/** Why nothing is said of a plan. */
const silence = ({ id }: PlanSummary): string => {
  const plan = plansById.value.get(id)
  if (out.value.has(id) || !plan) return 'left out'
  if (!usesDrum(plan)) return 'asks for none'
  return isRunning.value ? 'looking for room …' : 'not known'
}
const codeOf = (id: string): string => {
  const { code, name } = summaries.value.get(id) ?? {}
  return code || name || 'a plan without a name'
}

const found = shallowRef<readonly Staggered[]>([])
const {
  isRunning,
  failure: refused,
  begin,
  end,
} = useLongWork<StaggerQuestion, Staggered>(() => new StaggerWorker())
watch([asked, drum], () => {
  found.value = []
  end()
  if (drum.value === null || asked.value.length === 0) return
  const plans = asked.value.map(({ summary, plan }) => ({ id: summary.id, plan }))
  begin({ plans, drum: drum.value }, (one) => (found.value = [...found.value, one]))
})
const of = (id: string): Staggered | null => found.value.find((one) => one.id === id) ?? null
const title = computed(() =>
  asked.value.length === 0 ? 'Choose plans that need it.' : staggerTitle(found.value, asked.value.length),
)
/** How many there are, and in whose words. */
const room = computed(() => {
  for (const { summary, plan } of asked.value) {
    const resource = drumOf(plan, drum.value!)
    if (!resource) continue
    const amounts = [...new Set(resource.available.map(({ amount }) => amount))]
    const many = amounts.length === 0 ? 'no limit' : amounts.join(', later ')
    return `There ${amounts.length === 1 && amounts[0] === 1 ? 'is' : 'are'} ${many}, as ${codeOf(summary.id)} says.`
  }
  return ''
})

const move = (id: string, by: -1 | 1): void => {
  const at = order.value.indexOf(id)
  const next = [...order.value]
  next.splice(at, 1)
  next.splice(at + by, 0, id)
  order.value = next
}
const takePart = async (summary: PlanSummary, does: boolean): Promise<void> => {
  const { id } = summary
  try {
    if (does && !plansById.value.has(id)) await openPlans([summary])
  } catch (error) {
    problems.value = new Map([...problems.value, [id, (error as Error).message]])
    return
  }
  out.value = new Set(does ? [...out.value].filter((one) => one !== id) : [...out.value, id])
}
const day = (date: string, edge: 'start' | 'finish'): string =>
  dateWords(edge === 'start' ? date.slice(0, 10) : date, edge, { year: true })
const why = (one: Staggered): string =>
  whyWords(one, codeOf, (id) => plansById.value.get(one.id)?.activities.find((a) => a.id === id)?.code ?? '')

/** Scenarios made here, by plan. */
const made = ref<ReadonlyMap<string, string>>(new Map())
const problems = ref<ReadonlyMap<string, string>>(new Map())
watch([asked, drum], () => (made.value = problems.value = new Map()))
/** What was sent for a plan: sent again it is the same change, which the server keeps once. */
const sent = new Map<string, { readonly change: SentChange; readonly scenario: string }>()
watch([asked, drum], () => sent.clear())
const scenarioOf = ({ id, revision }: PlanSummary, one: Staggered) => {
  const plan = plansById.value.get(id)!
  const later = formatInstant(instantOf(plan.project.start, 'start') + one.days * 1440)
  const start = plan.project.start.includes('T') ? later : later.slice(0, 10)
  const { change, id: scenario } = newScenario(
    plan,
    {
      name: `Staggered at ${drumName.value}`,
      by: authorName.value,
      why: `It begins ${counted(one.days, 'calendar day')} later: ${why(one)}.`,
      holdsIf: '',
    },
    [{ kind: 'project', set: { start } }],
    Math.random,
  )
  const uid = crypto.randomUUID()
  return { change: { uid, client: clientId, author: authorName.value, base: revision, change }, scenario }
}
const asScenario = async (summary: PlanSummary, one: Staggered): Promise<void> => {
  const { id } = summary
  const own = sent.get(id) ?? scenarioOf(summary, one)
  sent.set(id, own)
  try {
    await api.send(id, own.change)
    problems.value = new Map([...problems.value].filter(([plan]) => plan !== id))
    if (sent.get(id) === own) made.value = new Map([...made.value, [id, own.scenario]])
  } catch (error) {
    problems.value = new Map([...problems.value, [id, (error as Error).message]])
  }
}
const drawn = computed(() =>
  asked.value.flatMap(({ summary, plan }) => {
    const one = of(summary.id)
    return one ? [{ id: summary.id, code: codeOf(summary.id), one, planned: plan.project.start }] : []
  }),
)
</script>

<template>
  <main class="stagger scroll">
    <div class="column">
      <RouterLink class="noun" to="/">All plans</RouterLink>
      <h1 data-test="stagger-title">{{ isOpen ? title : 'Opening the plans …' }}</h1>
      <p v-if="failure" class="brick" role="alert">{{ failure }}</p>
      <p v-else-if="isOpen && drums.length === 0" class="soft">
        In no plan does work ask for people or plant. Say in Resources who is needed; then plans can be
        staggered at whom they share.
      </p>
      <template v-else-if="isOpen">
        <div class="asked">
          <span>Staggered at</span>
          <ChoiceField v-model="drum" class="drum" label="Staggered at" :options="drumOptions" />
          <span class="soft">{{ room }}</span>
        </div>
        <p class="soft">
          The first in the list goes first. Plans under way stay as they are; every other begins on the first
          day on which its chain, with its buffers, finds room.
        </p>
        <p v-if="refused" class="brick" role="alert">{{ refused }}</p>
        <FactTable name="Staggered plans" data-test="stagger-table">
          <thead>
            <tr>
              <th>Order</th>
              <th>Plan</th>
              <th>Begins</th>
              <th class="right">Later by</th>
              <th>Promised</th>
              <th>Why then</th>
              <td />
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="(one, k) in ordered"
              :key="one.id"
              :class="{ soft: out.has(one.id) }"
              :data-test="`stagger-${codeOf(one.id)}`"
            >
              <td class="order">
                {{ k + 1 }}
                <IconButton
                  :icon="ArrowUp"
                  :disabled="k === 0"
                  :label="`${codeOf(one.id)} before ${codeOf(ordered[k - 1]?.id ?? '')}`"
                  @click="move(one.id, -1)"
                /><IconButton
                  :icon="ArrowDown"
                  :disabled="k === ordered.length - 1"
                  :label="`${codeOf(one.id)} after ${codeOf(ordered[k + 1]?.id ?? '')}`"
                  @click="move(one.id, 1)"
                />
              </td>
              <td>
                <TickBox :model-value="!out.has(one.id)" @update:model-value="takePart(one, $event)"
                  ><span class="code soft">{{ one.code }}</span> {{ one.name }}</TickBox
                >
              </td>
              <template v-for="it in [of(one.id)]" :key="it?.start ?? ''">
                <template v-if="it">
                  <td class="date" :data-iso="it.start.slice(0, 10)">{{ day(it.start, 'start') }}</td>
                  <td class="right">{{ it.days === 0 ? '–' : counted(it.days, 'day') }}</td>
                  <td class="date" :data-iso="it.promised">
                    <strong>{{ day(it.promised.slice(0, 10), 'finish') }}</strong>
                  </td>
                  <td :class="{ brick: it.state === 'cannot' }">{{ why(it) }}</td>
                  <td class="acts">
                    <RouterLink
                      v-if="made.has(one.id)"
                      class="noun"
                      :to="{
                        name: 'scenarios',
                        params: { id: one.id },
                        query: { of: made.get(one.id)! },
                      }"
                      >The scenario</RouterLink
                    >
                    <ActButton
                      v-else-if="it.days > 0 && mayDo(one.role, 'plan')"
                      :aria-label="`Make it a scenario of ${codeOf(one.id)}`"
                      @click="asScenario(one, it)"
                      >Make it a scenario</ActButton
                    >
                    <small v-if="problems.has(one.id)" class="brick" role="alert">{{
                      problems.get(one.id)
                    }}</small>
                  </td>
                </template>
                <td v-else colspan="5" class="soft">
                  <span v-if="problems.has(one.id)" class="brick" role="alert">{{
                    problems.get(one.id)
                  }}</span>
                  {{ silence(one) }}
                </td>
              </template>
            </tr>
          </tbody>
        </FactTable>
        <StaggerDrawing v-if="drawn.length > 0" class="drawing" :rows="drawn" :drum="drumName" />
      </template>
    </div>
  </main>
</template>

<style scoped>
.stagger {
  height: 100%;
  padding: 40px;
}
.column {
  max-width: 1120px;
  margin: 0 auto;
  display: flex;
  flex-direction: column;
  gap: 14px;
  align-items: flex-start;
}
.column > table,
.drawing {
  width: 100%;
}
.asked {
  display: flex;
  align-items: center;
  gap: 12px;
}
.drum {
  width: 280px;
}
td {
  vertical-align: baseline;
}
.order,
.date {
  white-space: nowrap;
}
.acts {
  text-align: right;
  white-space: nowrap;
}
</style>
