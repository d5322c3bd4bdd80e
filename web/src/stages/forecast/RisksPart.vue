<script setup lang="ts">
import { computed, ref, shallowRef, toRaw, watch, useTemplateRef } from 'vue'
import {
  chanceOf,
  chanceWords,
  counted,
  freshId,
  riskScaleOf,
  roundMoneyWords,
  type Activity,
  type Item,
  type Plan,
  type Risk,
  type RiskWorth,
} from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import SaveAs from '../../controls/SaveAs.vue'
import { useAttempt } from '../../composables/useAttempt.ts'
import { useLongWork } from '../../composables/useLongWork.ts'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import FootLine from '../../frame/FootLine.vue'
import { useForecastStore } from '../../stores/forecastStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import type { RisksQuestion } from '../../workers/risks.worker.ts'
import RisksWorker from '../../workers/risks.worker.ts?worker'
import RiskFields from './RiskFields.vue'
import RiskRow from './RiskRow.vue'
import RiskScaleFields from './RiskScaleFields.vue'
import ThreePanes from './ThreePanes.vue'

/** The risk register: how likely, how far, what each costs at the 80 % date and whether its mitigation pays. */
const props = defineProps<{ calendars: CalendarLookup }>()
const emit = defineEmits<{ show: [activity: string] }>()
const plans = usePlanStore()
const forecast = useForecastStore()
const { problem, attempt } = useAttempt()
const plan = computed(() => plans.viewPlan!)
const opened = ref<string | null>(plan.value.risks[0]?.id ?? null)
const isScale = ref(false)
const scale = computed(() => riskScaleOf(plan.value))
const open = (id: string): void => {
  opened.value = id
  isScale.value = false
}
/** As it is in the plan now: its next edit goes by what the last one made, which the worths do not yet. */
const risk = computed(() => plans.plan!.risks.find(({ id }) => id === opened.value) ?? null)

/** Of the latest run its draws, so that both speak of the same 80 % date. */
const draws = computed(() => {
  const run = forecast.latestResult
  return { iterations: run?.iterations ?? 2000, seed: run?.seed ?? 2027 }
})
const PERCENT = 80
const found = shallowRef<{ readonly plan: Plan; readonly worths: ReadonlyMap<string, RiskWorth> } | null>(
  null,
)
const { isRunning, failure, begin, end } = useLongWork<RisksQuestion, RiskWorth>(() => new RisksWorker())
const seek = (): void => {
  const of = plan.value
  found.value = { plan: of, worths: new Map() }
  const options = { ...draws.value, sampling: 'lhs', risks: true } as const
  begin({ plan: toRaw(of), options, percent: PERCENT }, (worth) => {
    if (found.value?.plan === of)
      found.value = { plan: of, worths: new Map([...found.value.worths, [worth.id, worth]]) }
  })
}
/** What was found for another plan is not shown, and its search not gone on with. */
watch(plan, () => {
  if (found.value?.plan !== plan.value) end()
})
const worths = computed(() => (found.value?.plan === plan.value ? found.value.worths : null))
const isPast = computed(() => found.value !== null && worths.value === null)

const dayOf = (activity: string): number => {
  const one = plan.value.activities.find(({ id }) => id === activity)
  return one ? props.calendars.lengthsOf(one).dayMinutes : 1440
}
interface Reach {
  readonly low: number
  readonly likely: number
  readonly high: number
}
/** Days by which a risk may move what it falls on most; negative of an opportunity. */
const reachOf = ({ impacts, work, sign }: Risk): Reach | null => {
  const all = [
    ...impacts.map(({ activity, delay }) => ({ ...delay, day: dayOf(activity) })),
    ...(work ?? []).map(({ after, duration }) => ({ ...duration, day: dayOf(after) })),
  ].map(({ low, likely, high, day }) => ({ low: low / day, likely: likely / day, high: high / day }))
  const most = all.sort((a, b) => b.high - a.high)[0]
  if (!most) return null
  return sign === 'threat' ? most : { low: -most.high, likely: -most.likely, high: -most.low }
}
const rows = computed(() => plan.value.risks.map((one) => ({ risk: one, reach: reachOf(one) })))
const range = computed(() => ({
  low: Math.min(0, ...rows.value.map(({ reach }) => reach?.low ?? 0)),
  high: Math.max(1, ...rows.value.map(({ reach }) => reach?.high ?? 0)),
}))
const money = (amount: number): string => roundMoneyWords(amount, plan.value.project.currency)
const days = (value: number): string => `${(Math.round(value * 10) / 10).toLocaleString('en')} d`
const dearest = computed(() => {
  const all = [...(worths.value?.values() ?? [])].sort((a, b) => b.owed.days - a.owed.days)
  const most = all[0]
  return most && most.owed.days > 0
    ? { ...most, risk: plan.value.risks.find(({ id }) => id === most.id)! }
    : null
})
const nameOf = ({ code, name, id }: Risk): string => code || name || id
const title = computed(() => {
  const threats = plan.value.risks.filter(({ sign }) => sign === 'threat').length
  const chances = plan.value.risks.length - threats
  if (plan.value.risks.length === 0) return 'What may happen to the plan?'
  if (dearest.value) return `${nameOf(dearest.value.risk)} moves P80 most: ${days(dearest.value.owed.days)}.`
  const parts = [
    ...(threats > 0 ? [counted(threats, 'threat')] : []),
    ...(chances > 0 ? [chances === 1 ? '1 opportunity' : `${chances} opportunities`] : []),
  ]
  return `${parts.join(' and ')} in the register.`
})
const worthOf = (id: string): RiskWorth | null => worths.value?.get(id) ?? null
/** Whether the mitigation of a risk pays, in a sentence. */
const verdict = (one: Risk): string => {
  const worth = worthOf(one.id)
  if (!one.mitigation) return ''
  const name = one.mitigation.name || 'its mitigation'
  if (!worth?.mitigation) return `${name}, for ${money(one.mitigation.cost)}`
  const { days: saved, money: spared } = worth.mitigation
  const time =
    saved >= 0.05 ? `${days(saved)} earlier` : saved <= -0.05 ? `${days(-saved)} later` : 'no day earlier'
  const cost =
    spared >= 1
      ? `${money(spared)} less in all: it pays`
      : spared <= -1
        ? `${money(-spared)} more in all`
        : 'at the same cost'
  return `${name}: ${time}, ${cost}`
}
const add = (): void => {
  const { risks } = plans.plan!
  const id = freshId(risks, 'k', Math.random)
  const codes = new Set(risks.map(({ code }) => code))
  let number = risks.length + 1
  while (codes.has(`R${number}`)) number++
  const item: Item = { id, code: `R${number}`, name: 'New risk', probability: 0 }
  if (attempt(() => plans.edit({ kind: 'add', list: 'risks', item, before: null }))) open(id)
}
const fallsOn = (one: Risk): Activity[] =>
  [...one.impacts.map(({ activity }) => activity), ...(one.work ?? []).map(({ before }) => before)].flatMap(
    (id) => plan.value.activities.find((activity) => activity.id === id) ?? [],
  )
/** The register for a file: delays in days, worth at P80 where it was weighed. */
const allRows = () => ({
  head: [
    'code',
    'risk',
    'sign',
    'in 100',
    'falls on',
    'days, least',
    'days, likely',
    'days, most',
    'days at P80',
    'money at P80',
    'mitigation',
    'its price',
    'days it saves',
    'money it saves',
  ],
  rows: rows.value.map(({ risk: one, reach }) => {
    const worth = worthOf(one.id)
    return [
      one.code,
      one.name,
      one.sign,
      Math.round(chanceOf(one) * 1000) / 10,
      fallsOn(one)
        .map(({ code }) => code)
        .join(' '),
      ...(reach ? [reach.low, reach.likely, reach.high] : ['', '', '']),
      worth?.owed.days ?? '',
      worth?.owed.money ?? '',
      one.mitigation ? one.mitigation.name || 'yes' : '',
      one.mitigation?.cost ?? '',
      worth?.mitigation?.days ?? '',
      worth?.mitigation?.money ?? '',
    ]
  }),
})
const register = useTemplateRef<HTMLElement>('register')
</script>

<template>
  <ThreePanes :left="196" :right="286">
    <template #left>
      <ActButton kind="primary" :disabled="isRunning || rows.length === 0" data-test="weigh" @click="seek"
        >Weigh them</ActButton
      >
      <ActButton v-if="isRunning" @click="end">Stop</ActButton>
      <p v-if="isRunning" class="soft" role="status">
        {{ worths?.size ?? 0 }} of {{ rows.length }} weighed …
      </p>
      <p v-if="failure" class="brick" role="alert">{{ failure }}</p>
      <p v-if="isPast" class="signal">The plan has changed; weigh them again.</p>
      <p class="soft">
        Of each risk: P80 with it less that without it, on the same
        {{ draws.iterations.toLocaleString('en') }} draws of seed {{ draws.seed
        }}{{ forecast.latestResult ? ', those of the latest run' : '' }}. The same for its mitigation.
      </p>
      <h3>How to read it</h3>
      <p class="soft">
        Each peg is 5 in 100. The bar reaches from the least to the most days on what it falls on, its dot at
        the likely ones; below it, thin, what is left after mitigation.
      </p>
      <ActButton data-test="add-risk" @click="add">Add a risk</ActButton>
      <p>
        <ActButton kind="noun" :aria-pressed="isScale" data-test="edit-scale" @click="isScale = !isScale"
          >Words for chances and delays</ActButton
        >
      </p>
      <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
    </template>
    <h1 data-test="risks-title">{{ title }}</h1>
    <p v-if="rows.length === 0" class="soft">
      A risk has a probability, and delays work, brings work of its own, or costs money. With some in the
      register, the simulation lets them happen, and this page says what each costs and whether doing
      something about it pays.
    </p>
    <div v-else ref="register" class="register" role="list" data-test="register">
      <RiskRow
        v-for="row in rows"
        :key="row.risk.id"
        role="listitem"
        :risk="row.risk"
        :reach="row.reach"
        :range="range"
        :is-open="row.risk.id === opened"
        :falls-on="fallsOn(row.risk)"
        :worth="worthOf(row.risk.id)"
        :verdict="verdict(row.risk)"
        :money="money"
        :scale="scale"
        @open="open(row.risk.id)"
        @show="emit('show', $event)"
      />
    </div>
    <SaveAs v-if="rows.length > 0" name="Risk register" :drawing="() => register" :table="allRows" />
    <template #right>
      <RiskScaleFields v-if="isScale" :calendars="calendars" />
      <template v-else-if="risk">
        <h2>{{ risk.code }} {{ risk.name }}</h2>
        <p class="soft">Happens in {{ chanceWords(chanceOf(risk)) }} iterations.</p>
        <RiskFields :key="risk.id" :risk="risk" :calendars="calendars" />
      </template>
      <p v-else class="soft">Choose a risk, or add one.</p>
    </template>
  </ThreePanes>
  <FootLine
    ><span>{{ counted(rows.length, 'risk') }}</span
    ><span v-if="worths">{{ worths.size }} weighed at P80</span></FootLine
  >
</template>

<style scoped>
.register {
  display: flex;
  flex-direction: column;
}
</style>
