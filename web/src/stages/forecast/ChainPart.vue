<script setup lang="ts">
import { computed, ref, shallowRef, toRaw, watch, useTemplateRef } from 'vue'
import {
  agreement,
  CalendarError,
  chainChanges,
  chainSettings,
  counted,
  dateWords,
  instantOf,
  instantWords,
  lengthsOf,
  LevelError,
  newScenario,
  readDuration,
  shortDay,
  type AgreedChain,
  type BufferState,
  type BufferTest,
  type ChainReport,
  type ChainSettings,
  type Plan,
} from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import NumberField from '../../controls/NumberField.vue'
import RadioChoice from '../../controls/RadioChoice.vue'
import TextField from '../../controls/TextField.vue'
import LongWorkLine from '../../controls/LongWorkLine.vue'
import SaveAs from '../../controls/SaveAs.vue'
import { useAttempt } from '../../composables/useAttempt.ts'
import { useLongWork } from '../../composables/useLongWork.ts'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import FootLine from '../../frame/FootLine.vue'
import { authorName } from '../../stores/identity.ts'
import { useForecastStore } from '../../stores/forecastStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import type { ChainPart, ChainQuestion } from '../../workers/chain.worker.ts'
import ChainWorker from '../../workers/chain.worker.ts?worker'
import ChainGround from './ChainGround.vue'
import FeverPicture from './FeverPicture.vue'
import ThreePanes from './ThreePanes.vue'
import { chainDrawing } from './chainRows.ts'

/** The critical chain: found, agreed, lived with; what its buffers say today, and whether they hold. */
defineProps<{ calendars: CalendarLookup }>()
const emit = defineEmits<{ show: [activity: string]; scenario: [id: string] }>()
const plans = usePlanStore()
const forecast = useForecastStore()
const { problem, attempt } = useAttempt()
const plan = computed(() => plans.viewPlan!)
const settings = computed(() => chainSettings(plan.value))
const agreed = computed(() => settings.value.agreed)
const today = (): string =>
  plan.value.project.statusDate?.slice(0, 10) ?? plan.value.project.start.slice(0, 10)

interface Found {
  readonly plan: Plan
  readonly report?: ChainReport
  readonly proposed?: AgreedChain
  readonly now?: Extract<ChainPart, { kind: 'now' }>
  readonly test?: readonly BufferTest[]
  readonly sizings: ReadonlyMap<ChainSettings['sizing'], Extract<ChainPart, { kind: 'sizing' }>>
}
const found = shallowRef<Found | null>(null)
const { isRunning, failure, wasStopped, begin, stop } = useLongWork<ChainQuestion, ChainPart>(
  () => new ChainWorker(),
)
const ITERATIONS = 2000
const seek = (): void => {
  const of = plan.value
  found.value = { plan: of, sizings: new Map() }
  const seed = forecast.latestResult?.seed ?? 2027
  begin({ plan: toRaw(of), iterations: ITERATIONS, seed, today: today() }, (part) => {
    if (found.value?.plan !== of) return
    if (part.kind === 'report') found.value = { ...found.value, report: part.report, proposed: part.proposed }
    else if (part.kind === 'now') found.value = { ...found.value, now: part }
    else if (part.kind === 'test') found.value = { ...found.value, test: part.test }
    else found.value = { ...found.value, sizings: new Map([...found.value.sizings, [part.sizing, part]]) }
  })
}
watch(plan, seek, { immediate: true })

const bufferLengths = computed(() =>
  lengthsOf(plan.value, settings.value.calendar ?? plan.value.project.calendar),
)
/** What was agreed, where something was, otherwise as it would be. */
const drawn = computed(() => {
  const shown = agreed.value ?? found.value?.proposed
  return shown ? chainDrawing(plan.value, shown, bufferLengths.value.dayMinutes) : null
})
const points = computed(() => found.value?.now?.points ?? [])
const states = computed(
  () =>
    new Map((points.value.at(-1)?.buffers ?? []).map((state): [string, BufferState] => [state.id, state])),
)
const chosen = ref<string | null>(null)
const codeOf = (id: string | undefined): string =>
  plan.value.activities.find((one) => one.id === id)?.code ?? ''
const resourceName = (id: string): string => {
  const resource = plan.value.resources.find((one) => one.id === id)
  return resource?.code || resource?.name || ''
}
interface Named {
  readonly kind: string
  readonly after: readonly string[]
  readonly before: readonly string[]
}
const nameOf = ({ kind, after, before }: Named): string => {
  if (kind === 'project') return 'Project'
  return kind === 'milestone'
    ? `Before ${codeOf(before[0])}`
    : `${codeOf(after[0])} into ${codeOf(before[0])}`
}
const bufferName = (id: string): string => {
  const is = (one: { readonly id: string }): boolean => one.id === id
  const buffer = drawn.value?.buffers.find(is) ?? found.value?.report?.buffers.find(is)
  return buffer ? nameOf(buffer) : 'a buffer that is no more'
}
const RANK = { act: 0, plan: 1, leave: 2 } as const
const SAYS = { act: 'act', plan: 'plan what to do', leave: 'leave it alone' } as const
const SHORT = { act: 'act', plan: 'plan', leave: 'leave' } as const
/** One list over all buffers, what needs somebody today first. */
const today_ = computed(() =>
  [...states.value.values()].sort((a, b) => RANK[a.says] - RANK[b.says] || b.consumption - a.consumption),
)
const bufferId = computed(() => chosen.value ?? today_.value[0]?.id ?? 'project')
const state = computed(() => states.value.get(bufferId.value) ?? null)
const tested = computed(() => found.value?.test?.find(({ id }) => id === bufferId.value) ?? null)
const days = (value: number): string => `${(Math.round(value * 10) / 10).toLocaleString('en')} d`
const daysOf = (minutes: number): string => days(minutes / bufferLengths.value.dayMinutes)
const percent = (share: number): string => (Number.isFinite(share) ? `${Math.round(100 * share)} %` : 'all')
const bufferSize = (id: string): number => drawn.value?.buffers.find((one) => one.id === id)?.days ?? 0
const date = (at: number): string => instantWords(at, 'finish', { time: false })
const inHundred = (share: number): string => `${Math.round(100 * share)} of 100`

const requiredAt = computed(() => {
  const { requiredFinish } = plan.value.project
  return requiredFinish === null ? null : instantOf(requiredFinish, 'finish')
})
const title = computed(() => {
  if (!drawn.value)
    return isRunning.value
      ? 'Looking for the chain …'
      : wasStopped.value
        ? 'Stopped before the chain was found.'
        : 'No chain can be found.'
  if (drawn.value.chain.length === 0) return 'There is no work left that could make a chain.'
  const { promised } = drawn.value
  const required = requiredAt.value
  const gap =
    required === null
      ? ''
      : promised <= required
        ? `, ${counted(Math.floor((required - promised) / 1440), 'day')} before it is required`
        : `, ${counted(Math.ceil((promised - required) / 1440), 'day')} after it is required`
  const first = today_.value[0]
  const worst =
    first && first.says !== 'leave'
      ? ` ${bufferName(first.id)}: ${percent(first.consumption)} used with ${percent(first.progress)} of its chain done.`
      : ''
  return agreed.value
    ? `Promised ${date(promised)}${gap}.${worst}`
    : `It could promise ${date(promised)}${gap}.`
})
const holds = computed(() => {
  const project = found.value?.test?.find(({ id }) => id === 'project')
  return project ? `Does it hold? Kept in ${inHundred(project.enough)}.` : ''
})

/** Every edit of how the chain is made keeps the rest of it. */
const set = (fields: Partial<ChainSettings>): boolean =>
  attempt(() => plans.edit({ kind: 'project', set: { chain: { ...settings.value, ...fields } } }))
const cut = computed({
  get: () => Math.round(settings.value.cut * 100),
  set: (value: number) => void set({ cut: value / 100 }),
})
const confidence = computed({
  get: () => Math.round(settings.value.confidence * 100),
  set: (value: number) => void set({ confidence: value / 100 }),
})
const own = computed(() => plan.value.activities.filter(({ focused }) => typeof focused === 'number').length)
const WAYS = [
  ['half', 'Half of the cut'],
  ['root-squares', 'Root of squares'],
  ['simulated', 'By simulation'],
] as const
const ways = computed(() =>
  WAYS.map(([value, words]) => {
    const one = found.value?.sizings.get(value)
    return {
      value,
      label: one
        ? `${words}: ${days(one.days)}, ${shortDay(instantOf(one.promised, 'finish'), 'finish')}`
        : words,
    }
  }),
)
const sizeProblems = ref<Readonly<Record<string, string>>>({})
const refuse = (id: string, why: string): void =>
  void (sizeProblems.value = { ...sizeProblems.value, [id]: why })
const setSize = (id: string, text: string): void => {
  if (text.trim() === '') {
    refuse(id, '')
    const { [id]: _, ...rest } = settings.value.buffers
    if (id in settings.value.buffers) set({ buffers: rest })
    return
  }
  const read = readDuration(text, bufferLengths.value)
  if (!read.ok) return refuse(id, read.why)
  if (read.minutes < 0) return refuse(id, 'no buffer is shorter than nothing')
  refuse(id, '')
  set({ buffers: { ...settings.value.buffers, [id]: { size: read.minutes } } })
}
const reported = computed(() => found.value?.report ?? null)
const thresholdWords = computed(() =>
  settings.value.thresholds.map(
    ([first, last]) => `${Math.round(first! * 100)} / ${Math.round(last! * 100)}`,
  ),
)
const setThreshold = (k: number, text: string): void => {
  const match = /^(\d{1,3})\s*[%]?\s*[/,–-]\s*(\d{1,3})\s*%?$/.exec(text.trim())
  const values = match ? [Number(match[1]), Number(match[2])] : []
  if (!match || values.some((value) => value > 100))
    return refuse(`t${k}`, 'write two percents, at the start / at the end: 10 / 60')
  const next = settings.value.thresholds.map((one, j) =>
    j === k ? [values[0]! / 100, values[1]! / 100] : one,
  ) as ChainSettings['thresholds']
  if (next[0]![0] > next[1]![0] || next[0]![1] > next[1]![1])
    return refuse(`t${k}`, 'the lower line cannot lie above the upper one')
  refuse(`t${k}`, '')
  set({ thresholds: next })
}

const tryTo = (work: () => void): void => {
  try {
    work()
  } catch (error) {
    if (!(error instanceof CalendarError || error instanceof LevelError)) throw error
    problem.value = error.message
  }
}
const agree = (): void =>
  tryTo(() => void set({ agreed: agreement(toRaw(plan.value), settings.value, today()) }))
const asScenario = (): void =>
  tryTo(() => {
    const { change, id } = newScenario(
      plans.base!,
      { name: 'Critical chain', by: authorName.value, why: title.value, holdsIf: '' },
      chainChanges(toRaw(plan.value), settings.value),
      Math.random,
    )
    if (attempt(() => plans.editPlan(change))) emit('scenario', id)
  })
const USES = {
  began: 'begins later',
  waited: 'waits longer',
  took: 'takes longer',
  ended: 'ends last, off the chain',
} as const
const LESS = {
  began: 'begins earlier',
  waited: 'waits less',
  took: 'takes less',
  ended: 'is passed by other work',
} as const
const fever = useTemplateRef<HTMLElement>('fever')
/** What the fever picture shows of a buffer, for a file. */
const feverRows = () => ({
  head: ['status date', 'in 100 used', 'in 100 of its chain done', 'says'],
  rows: points.value.flatMap(({ statusDate, buffers }) => {
    const known = buffers.find(({ id }) => id === bufferId.value)
    const inHundred = (share: number): number => Math.round(share * 1000) / 10
    return known ? [[statusDate, inHundred(known.consumption), inHundred(known.progress), known.says]] : []
  }),
})
</script>

<template>
  <ThreePanes :left="206" :right="284">
    <template #left>
      <h3>Focused durations</h3>
      <div class="line">
        <span>Cut by, in 100</span>
        <NumberField v-model="cut" label="Cut in 100" :min="0" :max="95" />
      </div>
      <p class="soft">
        <template v-if="own > 0"
          >{{ counted(own, 'activity') }} with a focused duration of {{ own === 1 ? 'its' : 'their' }} own.
        </template>
        One by one they are typed in the column Focused of the Rows.
      </p>
      <h3>Size of the buffers</h3>
      <RadioChoice
        :model-value="settings.sizing"
        label="Size of the buffers"
        :options="ways"
        @update:model-value="set({ sizing: $event })"
      />
      <div class="line">
        <span>Sure in 100</span>
        <NumberField v-model="confidence" label="Confidence in 100" :min="50" :max="99" />
      </div>
      <template v-if="reported && reported.buffers.length > 0">
        <h3>{{ agreed ? 'If agreed anew' : 'Buffers' }}</h3>
        <div v-for="buffer in reported.buffers" :key="buffer.id">
          <div class="line">
            <ActButton kind="noun" @click="chosen = buffer.id">{{ bufferName(buffer.id) }}</ActButton>
            <TextField
              class="size"
              :label="`Size of ${bufferName(buffer.id)}`"
              :kept="settings.buffers[buffer.id] ? days(buffer.size) : ''"
              :placeholder="days(buffer.size)"
              :invalid="!!sizeProblems[buffer.id]"
              @keep="setSize(buffer.id, $event)"
            />
          </div>
          <small v-if="sizeProblems[buffer.id]" class="brick" role="alert">{{
            sizeProblems[buffer.id]
          }}</small>
        </div>
        <p class="soft">Type over a size to set it; empty it to let it be counted.</p>
      </template>
      <template v-if="drawn && drawn.handovers.length > 0">
        <h3>Hand-overs</h3>
        <p v-for="one in drawn.handovers" :key="`${one.resource}${one.from}${one.to}`" class="line">
          <span
            ><span class="code">{{ resourceName(one.resource) }}</span></span
          >
          <span
            ><ActButton kind="noun" class="code" @click="emit('show', one.from)">{{
              codeOf(one.from)
            }}</ActButton>
            →
            <ActButton kind="noun" class="code" @click="emit('show', one.to)">{{
              codeOf(one.to)
            }}</ActButton></span
          >
        </p>
      </template>
      <template v-if="reported && reported.alerts.length > 0">
        <h3>Call ahead</h3>
        <p v-for="one in reported.alerts" :key="`${one.activity}${one.resource}`" class="line">
          <span>{{ resourceName(one.resource) }} before {{ codeOf(one.activity) }}</span>
          <span class="soft">{{ shortDay(instantOf(one.at, 'start')) }}</span>
        </p>
      </template>
    </template>
    <p v-if="failure" class="brick" role="alert" data-test="chain-failure">{{ failure }}</p>
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
    <h1 v-if="!failure" data-test="chain-title">{{ title }}</h1>
    <div class="deeds">
      <ActButton
        v-if="drawn && drawn.chain.length > 0 && plans.kept === null"
        :kind="agreed ? 'chip' : 'primary'"
        data-test="agree"
        @click="agree"
        >{{ agreed ? 'Agree it anew' : 'Agree this chain' }}</ActButton
      >
      <ActButton v-if="agreed" @click="set({ agreed: null })">Let it go</ActButton>
      <ActButton v-if="drawn && drawn.chain.length > 0" data-test="chain-scenario" @click="asScenario"
        >Make it a scenario</ActButton
      >
      <span v-if="agreed" class="soft"
        >Agreed {{ dateWords(agreed.at, 'start') }}; brackets are what was agreed.</span
      >
    </div>
    <ChainGround
      v-if="drawn && drawn.chain.length > 0"
      :plan="plan"
      :drawn="drawn"
      :now="agreed ? (found?.now?.dates ?? null) : null"
      :states="states"
      :gaps="agreed ? [] : (reported?.gaps ?? [])"
      :calendars="calendars"
      :chosen="bufferId"
      @choose="chosen = $event"
      @show="emit('show', $event)"
    />
    <p v-if="reported && !agreed && reported.gaps.length > 0" class="soft">
      <template v-for="gap in reported.gaps" :key="gap.before"
        >{{ codeOf(gap.before) }} waits {{ days(gap.length) }} for {{ bufferName(gap.cause) }}, whose buffer
        does not fit before it. A smaller buffer there and {{ days(gap.length) }} more for the project would
        not pay the risk twice.
      </template>
    </p>
    <p v-if="holds" data-test="chain-holds">
      <strong>{{ holds }}</strong>
    </p>
    <template #right>
      <template v-if="agreed && state">
        <p class="soft">{{ bufferName(bufferId) }}, {{ days(bufferSize(bufferId)) }}</p>
        <h2 data-test="fever-says">
          {{ percent(state.consumption) }} used with {{ percent(state.progress) }} done:
          {{ SAYS[state.says] }}
        </h2>
        <div ref="fever">
          <FeverPicture
            :points="points"
            :buffer="bufferId"
            :thresholds="settings.thresholds as [number, number][]"
          />
          <SaveAs :name="`Fever of ${bufferName(bufferId)}`" :drawing="() => fever" :table="feverRows" />
        </div>
        <h3>What used it</h3>
        <p v-if="state.uses.length === 0" class="soft">Nothing: all of it began and went as agreed.</p>
        <p v-for="use in state.uses" :key="`${use.activity}${use.kind}`" class="line">
          <span
            ><ActButton kind="noun" class="code" @click="emit('show', use.activity)">{{
              codeOf(use.activity)
            }}</ActButton>
            {{ use.minutes > 0 ? USES[use.kind] : LESS[use.kind] }}</span
          >
          <span>{{ use.minutes > 0 ? '' : '−' }}{{ daysOf(Math.abs(use.minutes)) }}</span>
        </p>
        <h3>Today, over all buffers: used / done</h3>
        <p v-for="one in today_" :key="one.id" class="line" data-test="today">
          <ActButton kind="noun" :aria-pressed="one.id === bufferId" @click="chosen = one.id">{{
            bufferName(one.id)
          }}</ActButton>
          <span>{{ percent(one.consumption) }} / {{ percent(one.progress) }}: {{ SHORT[one.says] }}</span>
        </p>
        <h3>Thresholds, at the start / at the end</h3>
        <div v-for="(words, k) in thresholdWords" :key="k">
          <div class="line">
            <span>{{ k === 0 ? 'plan above' : 'act above' }}</span>
            <TextField
              class="size"
              :label="k === 0 ? 'Plan above' : 'Act above'"
              :kept="words"
              :invalid="!!sizeProblems[`t${k}`]"
              @keep="setThreshold(k, $event)"
            />
          </div>
          <small v-if="sizeProblems[`t${k}`]" class="brick" role="alert">{{ sizeProblems[`t${k}`] }}</small>
        </div>
      </template>
      <template v-else-if="!agreed && reported">
        <h2>The plan as it is stays as it is</h2>
        <p>
          The chain looks at it with {{ counted(reported.chain.length, 'activity') }} on focused durations,
          one after the other by links and hand-overs. What was cut stands behind it, as one buffer for all.
        </p>
        <p>
          Agree it, and each update moves what is left of the buffers: the fever picture then says when to
          act.
        </p>
      </template>
      <template v-if="tested">
        <h3>Does {{ bufferName(bufferId) }} hold?</h3>
        <p data-test="buffer-holds">
          It is enough in {{ inHundred(tested.enough) }} of {{ ITERATIONS.toLocaleString('en') }} iterations.
          For {{ inHundred(settings.confidence) }} it would need {{ daysOf(tested.minutesFor) }}.
        </p>
        <p>
          <ActButton
            data-test="take-size"
            @click="set({ buffers: { ...settings.buffers, [bufferId]: { size: tested.minutesFor } } })"
            >Take {{ daysOf(tested.minutesFor) }}</ActButton
          >
          <span v-if="agreed" class="soft"> counts once it is agreed anew</span>
        </p>
      </template>
    </template>
  </ThreePanes>
  <FootLine
    ><span v-if="drawn"
      >Chain: {{ counted(drawn.chain.length, 'activity') }},
      {{ counted(drawn.buffers.filter(({ kind }) => kind === 'feeding').length, 'feeding buffer') }}</span
    ><span v-if="reported">{{ counted(reported.gaps.length, 'gap') }}</span
    ><LongWorkLine
      :is-running="isRunning"
      :was-stopped="wasStopped"
      :doing="drawn ? 'Testing whether the buffers hold' : 'Looking for the chain'"
      @stop="stop"
      @again="seek"
  /></FootLine>
</template>

<style scoped>
.line {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 6px;
  margin: 0;
}
.line :deep(.number-field) {
  width: 62px;
}
.size {
  width: 84px;
}
.deeds {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
}
</style>
