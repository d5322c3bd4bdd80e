<script setup lang="ts">
import { computed, ref } from 'vue'
import {
  amountsWords,
  amountWords,
  chanceStep,
  chanceWords,
  delayMinutes,
  delayStep,
  namedStep,
  riskScaleOf,
  estimateWords,
  readAmount,
  readAmounts,
  readChance,
  readEstimate,
  type Activity,
  type Item,
  type Risk,
} from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import ChoiceField from '../../controls/ChoiceField.vue'
import TextField from '../../controls/TextField.vue'
import TickBox from '../../controls/TickBox.vue'
import TextRow from '../../controls/TextRow.vue'
import ChoiceRow from '../../controls/ChoiceRow.vue'
import { optionsByCode, optionsOf } from '../../controls/options.ts'
import { useAttempt } from '../../composables/useAttempt.ts'
import { useRefusals } from '../../composables/useRefusals.ts'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { usePlanStore } from '../../stores/planStore.ts'

/** All facts of a risk: how likely, what it delays, the work and money it brings, and what could be done about it. */
const props = defineProps<{ risk: Risk; calendars: CalendarLookup }>()
const plans = usePlanStore()
const { problem, attempt } = useAttempt()
const { why, accept, take } = useRefusals(() => props.risk.id)
const SIGNS = [
  ['threat', 'a threat: it delays'],
  ['opportunity', 'an opportunity: it saves time'],
] as const
/** As it is, whatever dates are shown: an edit goes by what the one before it made. */
const plan = computed(() => plans.plan!)
const work = computed(() => plan.value.activities.filter(({ kind }) => kind !== 'hammock'))
const open = computed(() =>
  optionsByCode(work.value.filter(({ kind, progress }) => kind === 'work' && progress.actualFinish === null)),
)
const ends = computed(() => optionsByCode(work.value))
const activityOf = (id: string): Activity | undefined => plan.value.activities.find((one) => one.id === id)
const codeOf = (id: string): string => activityOf(id)?.code ?? ''
const lengthsOf = (id: string) => props.calendars.lengthsOf(activityOf(id)!)

const set = (fields: Item): boolean =>
  attempt(() => plans.edit({ kind: 'set', list: 'risks', key: props.risk.id, set: fields }))
const scale = computed(() => riskScaleOf(plan.value))
/** A chance by a word of the plan's scale, or by value. */
const chanceOfText = (text: string): ReturnType<typeof readChance> => {
  const step = namedStep(scale.value.chances, text)
  if (step) return { ok: true, share: step.value }
  const read = readChance(text)
  const words = scale.value.chances.map(({ name }) => name).join(', ')
  return read.ok || words === '' ? read : { ok: false, why: `${read.why}, or a word: ${words}` }
}
const chanceText = (share: number): string => chanceStep(scale.value, share)?.name ?? chanceWords(share)
/** A delay by a word of the plan's scale, or by three durations. */
const delayOfText = (text: string, activity: string): ReturnType<typeof readEstimate> => {
  const step = namedStep(scale.value.delays, text)
  if (step) return { ok: true, range: delayMinutes(step, lengthsOf(activity)) }
  const read = readEstimate(text, lengthsOf(activity))
  const words = scale.value.delays.map(({ name }) => name).join(', ')
  return read.ok || words === '' ? read : { ok: false, why: `${read.why}; or a word: ${words}` }
}
const delayWord = ({ activity, delay }: Risk['impacts'][number]): string | null =>
  delayStep(scale.value, delay, lengthsOf(activity))?.name ?? null
const keepChance = (text: string): void => {
  const read = chanceOfText(text)
  take('probability', read, () => read.ok && set({ probability: read.share }))
}
const keepDelay = (k: number, text: string): void => {
  const impact = props.risk.impacts[k]!
  const read = delayOfText(text, impact.activity)
  take(
    `impact ${k}`,
    read,
    () =>
      read.ok &&
      set({
        impacts: props.risk.impacts.map((one, j) =>
          j === k ? { ...one, delay: { ...one.delay, ...read.range } } : one,
        ),
      }),
  )
}
const setShare = (k: number, share: boolean): boolean =>
  set({ impacts: props.risk.impacts.map((one, j) => (j === k ? { ...one, share } : one)) })
const dropImpact = (k: number): void => {
  accept(`impact ${k}`)
  set({ impacts: props.risk.impacts.filter((_, j) => j !== k) })
}
const works = computed(() => props.risk.work ?? [])
const keepWork = (k: number, text: string): void => {
  const read = readEstimate(text, lengthsOf(works.value[k]!.after))
  take(
    `work ${k}`,
    read,
    () =>
      read.ok &&
      set({
        work: works.value.map((one, j) =>
          j === k ? { ...one, duration: { ...one.duration, ...read.range } } : one,
        ),
      }),
  )
}
const dropWork = (k: number): boolean => set({ work: works.value.filter((_, j) => j !== k) })
const keepCost = (text: string): void => {
  if (text.trim() === '') return take('cost', { ok: true }, () => set({ cost: null }))
  const read = readAmounts(text)
  take(
    'cost',
    read,
    () => read.ok && set({ cost: { ...(props.risk.cost ?? { shape: 'pert' }), ...read.range } }),
  )
}

/** What is added once it is complete: nothing stands in the plan before. */
const newImpact = ref<string | null>(null)
const addImpact = (text: string): void => {
  if (newImpact.value === null || text.trim() === '') return
  const activity = newImpact.value
  const read = delayOfText(text, activity)
  take('new impact', read, () => {
    if (!read.ok) return
    const delay = { ...read.range, shape: 'pert', ends: 'extremes' }
    if (set({ impacts: [...props.risk.impacts, { activity, delay }] })) newImpact.value = null
  })
}
const newAfter = ref<string | null>(null)
const newBefore = ref<string | null>(null)
const addWork = (text: string): void => {
  const [after, before] = [newAfter.value, newBefore.value]
  if (after === null || before === null || text.trim() === '') return
  const read = readEstimate(text, lengthsOf(after))
  take('new work', read, () => {
    if (!read.ok) return
    const duration = { ...read.range, shape: 'pert', ends: 'extremes' }
    if (set({ work: [...works.value, { after, before, duration }] })) newAfter.value = newBefore.value = null
  })
}

const mitigation = computed(() => props.risk.mitigation)
const setMitigation = (fields: Item): boolean =>
  set({ mitigation: { ...(mitigation.value ?? {}), ...fields } })
const addMitigation = (): boolean =>
  set({ mitigation: { name: '', cost: 0, probability: props.risk.probability, scale: 1, done: false } })
const keepPrice = (text: string): void => {
  const cost = readAmount(text)
  take(
    'price',
    cost !== null && cost >= 0
      ? { ok: true }
      : { ok: false, why: `“${text}” is no amount; write for example 3,000` },
    () => setMitigation({ cost }),
  )
}
const keepReduced = (text: string): void => {
  const read = chanceOfText(text)
  take('reduced', read, () => read.ok && setMitigation({ probability: read.share }))
}
const keepScale = (text: string): void => {
  const read = readChance(text)
  take('scale', read, () => read.ok && setMitigation({ scale: read.share }))
}
const remove = (): void =>
  void attempt(() => plans.edit({ kind: 'remove', list: 'risks', key: props.risk.id }))
</script>

<template>
  <section class="risk" data-test="risk-fields">
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
    <TextRow label="Code" :kept="risk.code" @keep="set({ code: $event.trim() })" />
    <TextRow label="Name" :kept="risk.name" data-test="risk-name" @keep="set({ name: $event.trim() })" />
    <TextRow
      label="Probability"
      :problem="why.get('probability')"
      :kept="chanceText(risk.probability)"
      placeholder="30%, or a word"
      @keep="keepChance"
      ><template v-if="chanceStep(scale, risk.probability)" #note>{{
        chanceWords(risk.probability)
      }}</template></TextRow
    >
    <ChoiceRow
      label="It is"
      named="Threat or opportunity"
      :model-value="risk.sign"
      :options="optionsOf(SIGNS)"
      @update:model-value="set({ sign: $event })"
    />
    <TextRow
      label="Costs"
      :problem="why.get('cost')"
      :kept="risk.cost ? amountsWords(risk.cost) : ''"
      placeholder="8,000 / 15,000 / 40,000"
      @keep="keepCost"
    />

    <h3>{{ risk.sign === 'threat' ? 'What it delays' : 'What it shortens' }}</h3>
    <div v-for="(impact, k) in risk.impacts" :key="`${impact.activity} ${k}`" class="item">
      <TextRow
        :label="codeOf(impact.activity)"
        :problem="why.get(`impact ${k}`)"
        :named="`Days of ${codeOf(impact.activity)}, low / likely / high`"
        :kept="delayWord(impact) ?? estimateWords(impact.delay, lengthsOf(impact.activity))"
        @keep="keepDelay(k, $event)"
        ><template v-if="delayWord(impact)" #note>{{
          estimateWords(impact.delay, lengthsOf(impact.activity))
        }}</template></TextRow
      >
      <div class="actions">
        <TickBox
          v-if="risk.impacts.length > 1"
          :model-value="impact.share === true"
          @update:model-value="setShare(k, $event)"
          >as bad as the others</TickBox
        >
        <ActButton kind="noun" :aria-label="`Remove ${codeOf(impact.activity)}`" @click="dropImpact(k)"
          >Remove</ActButton
        >
      </div>
    </div>
    <div class="item">
      <ChoiceField
        v-model="newImpact"
        label="Another activity it falls on"
        :options="open"
        placeholder="another activity …"
      />
      <TextField
        v-if="newImpact !== null"
        label="By how much, low / likely / high"
        :kept="''"
        placeholder="1 / 2 / 5"
        :invalid="why.has('new impact')"
        @keep="addImpact"
      />
      <small v-if="why.get('new impact')" class="brick" role="alert">{{ why.get('new impact') }}</small>
    </div>

    <h3>Work that it brings</h3>
    <div v-for="(one, k) in works" :key="`${one.after} ${one.before} ${k}`" class="item">
      <TextRow
        :label="`${codeOf(one.after)} → ${codeOf(one.before)}`"
        :problem="why.get(`work ${k}`)"
        :named="`Work between ${codeOf(one.after)} and ${codeOf(one.before)}, low / likely / high`"
        :kept="estimateWords(one.duration, lengthsOf(one.after))"
        @keep="keepWork(k, $event)"
      />
      <div class="actions"><ActButton kind="noun" @click="dropWork(k)">Remove</ActButton></div>
    </div>
    <div class="item">
      <ChoiceField v-model="newAfter" label="Work after" :options="ends" placeholder="work after …" />
      <ChoiceField
        v-if="newAfter !== null"
        v-model="newBefore"
        label="and before"
        :options="ends"
        placeholder="and before …"
      />
      <TextField
        v-if="newAfter !== null && newBefore !== null"
        label="How long, low / likely / high"
        :kept="''"
        placeholder="1 / 2 / 4"
        :invalid="why.has('new work')"
        @keep="addWork"
      />
      <small v-if="why.get('new work')" class="brick" role="alert">{{ why.get('new work') }}</small>
    </div>

    <h3>What could be done about it</h3>
    <template v-if="mitigation">
      <TextRow label="Mitigation" :kept="mitigation.name" @keep="setMitigation({ name: $event.trim() })" />
      <TextRow
        label="Price"
        :problem="why.get('price')"
        :kept="amountWords(mitigation.cost)"
        @keep="keepPrice"
      />
      <TextRow
        label="Then likely"
        :problem="why.get('reduced')"
        :kept="chanceText(mitigation.probability)"
        @keep="keepReduced"
      />
      <TextRow
        label="Delays left"
        :problem="why.get('scale')"
        :kept="`${Math.round(mitigation.scale * 1000) / 10}%`"
        @keep="keepScale"
      />
      <TickBox :model-value="mitigation.done" @update:model-value="setMitigation({ done: $event })"
        >it is done, and counted</TickBox
      >
      <p><ActButton kind="noun" @click="set({ mitigation: null })">No mitigation</ActButton></p>
    </template>
    <p v-else><ActButton @click="addMitigation">Add a mitigation</ActButton></p>
    <p><ActButton @click="remove">Remove this risk</ActButton></p>
  </section>
</template>

<style scoped>
.risk {
  display: flex;
  flex-direction: column;
  gap: 6px;
  --field-label: 84px;
}
.item {
  display: flex;
  flex-direction: column;
  gap: 4px;
}
.actions {
  display: flex;
  justify-content: space-between;
  align-items: center;
}
</style>
