<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import {
  instantOf,
  instantWords,
  readDate,
  type LookCondition,
  type Plan,
  type TargetLook,
  type ValueScale,
  readAmount,
} from '@geodrome/core'
import ChoiceField from '../../controls/ChoiceField.vue'
import TextField from '../../controls/TextField.vue'
import type { TargetChoice } from './targets.ts'
import { isMeanInGap } from './seen.ts'

/** What is asked of a run: about what, in which iterations, how sure of which date or amount; and the figures of the answer. */
const props = defineProps<{
  plan: Plan
  choices: readonly TargetChoice[]
  target: TargetChoice
  given: LookCondition | null
  look: TargetLook | null
  /** Whether the run drew the risk register. */
  withRisks: boolean
  scale: ValueScale
  problem: string
  /** Around which dates without a year are meant. */
  around: number
}>()
const emit = defineEmits<{
  target: [value: string]
  given: [condition: LookCondition | null]
  asked: [value: string | number | null]
}>()

const ALL = 'all'
const AFTER = 'after'
const BY = 'by'
/** Chosen, though a date is still to be typed. */
const chosen = ref(ALL)
const conditions = computed(() => [
  { value: ALL, label: 'in all iterations' },
  ...(props.withRisks
    ? props.plan.risks.flatMap(({ id, code, name }) => [
        { value: `+${id}`, label: `where ${code || name} happened` },
        { value: `-${id}`, label: `where ${code || name} did not` },
      ])
    : []),
  { value: AFTER, label: 'where the plan finishes after …' },
  { value: BY, label: 'where it finishes by …' },
])
const choose = (value: string): void => {
  chosen.value = value
  dateProblem.value = ''
  if (value === ALL) return emit('given', null)
  if (value !== AFTER && value !== BY)
    return emit('given', { by: 'risk', id: value.slice(1), happened: value.startsWith('+') })
  const date = props.given?.by === 'finish' ? props.given.date : props.plan.project.requiredFinish
  if (date !== null) emit('given', { by: 'finish', date, after: value === AFTER })
}
const isDated = computed(() => chosen.value === AFTER || chosen.value === BY)
const dateProblem = ref('')
const dateWords = (date: string): string => instantWords(instantOf(date, 'finish'), 'finish', { time: false })
const conditionDate = computed(() => (props.given?.by === 'finish' ? dateWords(props.given.date) : ''))
const keepDate = (text: string): void => {
  const read = readDate(text, props.around)
  dateProblem.value = read.ok ? '' : read.why
  if (read.ok) emit('given', { by: 'finish', date: read.date, after: chosen.value === AFTER })
}
/** Another run did not draw what this one did. */
watch(
  () => props.given,
  (given) => {
    if (given === null && !isDated.value) chosen.value = ALL
  },
)

const asked = ref('')
const askedProblem = ref('')
const isDate = computed(() => props.scale.isDate)
const keepAsked = (text: string): void => {
  askedProblem.value = ''
  asked.value = text
  if (text.trim() === '') return emit('asked', null)
  if (isDate.value) {
    const read = readDate(text, props.around)
    if (!read.ok) askedProblem.value = read.why
    else asked.value = dateWords(read.date)
    return emit('asked', read.ok ? read.date : null)
  }
  const amount = readAmount(text.replace(/[a-z]+\s*$/i, ''))
  if (amount !== null) return emit('asked', amount)
  askedProblem.value = 'An amount is wanted, such as 250,000.'
  emit('asked', null)
}
/** What was asked of a date is no question about money. */
watch(isDate, () => {
  asked.value = ''
  askedProblem.value = ''
})
const inHundred = (share: number): string => `${Math.round(share * 100)} of 100`
const span = computed(() => {
  const found = props.look?.distribution
  if (!found) return ''
  const { best, worst, mean, sd } = found
  if (!isDate.value)
    return `Least ${props.scale.words(best)}, most ${props.scale.words(worst)}. The mean is ${props.scale.words(mean)}, the standard deviation ${props.scale.words(sd)}.`
  const days = Math.round((instantOf(String(worst), 'start') - instantOf(String(best), 'start')) / 1440)
  return `Earliest ${props.scale.words(best)}, latest ${props.scale.words(worst)}, ${days} calendar days apart. ${isMeanInGap(found) ? `The mean, ${props.scale.words(mean)}, lies between two peaks and is not a date to expect` : `The mean is ${props.scale.words(mean)}`}; standard deviation ${sd.toFixed(1)} calendar days.`
})
</script>

<template>
  <section class="answer-for">
    <h3>Answer for</h3>
    <ChoiceField
      label="Answer for"
      :model-value="target.value"
      :options="choices"
      data-test="target"
      @update:model-value="emit('target', $event)"
    />
    <ChoiceField
      label="In which iterations"
      :model-value="chosen"
      :options="conditions"
      data-test="given"
      @update:model-value="choose"
    />
    <TextField
      v-if="isDated"
      :kept="conditionDate"
      label="Date of the condition"
      placeholder="thu 1 jul"
      :invalid="dateProblem !== ''"
      data-test="given-date"
      @keep="keepDate"
    />
    <p v-if="dateProblem" class="brick" role="alert">{{ dateProblem }}</p>
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
    <p v-if="look && look.count < look.of" class="soft" role="status" data-test="of-which">
      {{ look.count.toLocaleString('en') }} of {{ look.of.toLocaleString('en') }} iterations<template
        v-if="look.count > 0 && look.count < 200"
        >, too few to be sure of the ends</template
      >.
    </p>
    <p v-if="span">{{ span }}</p>
    <template v-if="look?.distribution">
      <p v-for="p in [50, 80, 90]" :key="p" class="fact" :data-test="`p${p}`">
        <span>{{ p }} in 100 {{ isDate ? 'by' : 'within' }}</span
        ><strong>{{ scale.words(look.distribution.percentiles[String(p)]!) }}</strong>
      </p>
      <p class="fact">
        <span>How sure of</span>
        <TextField
          class="asked"
          :kept="asked"
          :label="isDate ? 'How sure of which date' : 'How sure of which amount'"
          :placeholder="isDate ? 'thu 1 jul' : target.target.what === 'length' ? '40 d' : '250,000'"
          :invalid="askedProblem !== ''"
          data-test="asked"
          @keep="keepAsked"
        />
      </p>
      <p v-if="askedProblem" class="brick" role="alert">{{ askedProblem }}</p>
      <p v-else-if="look.askedShare !== null" data-test="asked-share">
        Kept in <strong>{{ inHundred(look.askedShare) }}</strong>.
      </p>
    </template>
  </section>
</template>

<style scoped>
.answer-for {
  display: flex;
  flex-direction: column;
  gap: 5px;
}
.fact {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 8px;
}
.asked {
  max-width: 150px;
}
</style>
