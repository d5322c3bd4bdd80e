<script setup lang="ts">
import { X } from '@lucide/vue'
import { computed, ref } from 'vue'
import {
  chanceWords,
  counted,
  readChance,
  readEstimate,
  riskScaleOf,
  setChanceStep,
  setDelayStep,
  type ChanceStep,
  type DelayStep,
  type ScaleChange,
} from '@geodrome/core'
import IconButton from '../../controls/IconButton.vue'
import TextField from '../../controls/TextField.vue'
import { useAttempt } from '../../composables/useAttempt.ts'
import { useRefusals } from '../../composables/useRefusals.ts'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { usePlanStore } from '../../stores/planStore.ts'

/** The words that stand for chances and delays in this plan's register, and what each means. */
const props = defineProps<{ calendars: CalendarLookup }>()
const plans = usePlanStore()
const { problem, attempt } = useAttempt()
const { why, refuse, accept, take } = useRefusals()
const plan = computed(() => plans.plan!)
const scale = computed(() => riskScaleOf(plan.value))
const lengths = computed(() => props.calendars.projectLengths)
/** What the last change took along. */
const moved = ref('')
const keep = ({ change, moves }: ScaleChange): void => {
  if (attempt(() => plans.edit(change)))
    moved.value =
      moves === 0 ? '' : `${counted(moves, 'risk')} with that word ${moves === 1 ? 'goes' : 'go'} along.`
}
const setChance = (at: number, step: ChanceStep | null): void => keep(setChanceStep(plan.value, at, step))
const setDelay = (at: number, step: DelayStep | null): void => keep(setDelayStep(plan.value, at, step))

/** A name that is there already stands for something else. */
const isFree = (
  steps: readonly { readonly name: string }[],
  at: number,
  name: string,
  field: string,
): boolean => {
  const reason =
    name === ''
      ? 'a step has a name'
      : steps.some((one, k) => k !== at && one.name.toLowerCase() === name.toLowerCase())
        ? `“${name}” is a step of its own already`
        : ''
  if (reason === '') accept(field)
  else refuse(field, reason)
  return reason === ''
}
const renameChance = (at: number, text: string): void => {
  const name = text.trim()
  if (isFree(scale.value.chances, at, name, `c${at}`)) setChance(at, { ...scale.value.chances[at]!, name })
}
const renameDelay = (at: number, text: string): void => {
  const name = text.trim()
  if (isFree(scale.value.delays, at, name, `d${at}`)) setDelay(at, { ...scale.value.delays[at]!, name })
}
const valueChance = (at: number, text: string): void => {
  const read = readChance(text)
  take(`c${at}`, read, () => read.ok && setChance(at, { ...scale.value.chances[at]!, value: read.share }))
}
const valueDelay = (at: number, text: string): void => {
  const read = readEstimate(text, lengths.value)
  const days = (minutes: number): number => minutes / lengths.value.dayMinutes
  take(`d${at}`, read, () => {
    if (!read.ok) return
    const { low, likely, high } = read.range
    const { name } = scale.value.delays[at]!
    setDelay(at, { name, low: days(low), likely: days(likely), high: days(high) })
  })
}
const newChance = (text: string): void => {
  const name = text.trim()
  const { chances } = scale.value
  if (name !== '' && isFree(chances, -1, name, 'new chance')) setChance(chances.length, { name, value: 0.5 })
}
const newDelay = (text: string): void => {
  const name = text.trim()
  const { delays } = scale.value
  if (name !== '' && isFree(delays, -1, name, 'new delay'))
    setDelay(delays.length, { name, low: 1, likely: 2, high: 4 })
}
/** "5 / 10 / 16", in days. */
const delayWords = ({ low, likely, high }: DelayStep): string =>
  [low, likely, high].map((days) => String(Math.round(days * 100) / 100)).join(' / ')
</script>

<template>
  <section data-test="risk-scale">
    <h2>Words for chances and delays</h2>
    <p class="soft">
      Type a word where a risk asks for a probability or for days. What a word means can be changed: risks
      that have it go along.
    </p>
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
    <p v-if="moved" role="status" data-test="scale-moved">{{ moved }}</p>
    <h3>How likely</h3>
    <div v-for="(step, k) in scale.chances" :key="`c${k}`">
      <div class="step">
        <TextField :label="`Word ${k + 1} for a chance`" :kept="step.name" @keep="renameChance(k, $event)" />
        <TextField
          :label="`Chance that is ${step.name}`"
          :kept="chanceWords(step.value)"
          :invalid="why.has(`c${k}`)"
          @keep="valueChance(k, $event)"
        />
        <IconButton :icon="X" :label="`Remove ${step.name}`" @click="setChance(k, null)" />
      </div>
      <small v-if="why.get(`c${k}`)" class="brick" role="alert">{{ why.get(`c${k}`) }}</small>
    </div>
    <TextField
      label="Another word for a chance"
      :kept="''"
      placeholder="another word …"
      :invalid="why.has('new chance')"
      @keep="newChance"
    />
    <small v-if="why.get('new chance')" class="brick" role="alert">{{ why.get('new chance') }}</small>
    <h3>How far: days, low / likely / high</h3>
    <div v-for="(step, k) in scale.delays" :key="`d${k}`">
      <div class="step">
        <TextField :label="`Word ${k + 1} for a delay`" :kept="step.name" @keep="renameDelay(k, $event)" />
        <TextField
          :label="`Days that are ${step.name}`"
          :kept="delayWords(step)"
          :invalid="why.has(`d${k}`)"
          @keep="valueDelay(k, $event)"
        />
        <IconButton :icon="X" :label="`Remove ${step.name}`" @click="setDelay(k, null)" />
      </div>
      <small v-if="why.get(`d${k}`)" class="brick" role="alert">{{ why.get(`d${k}`) }}</small>
    </div>
    <TextField
      label="Another word for a delay"
      :kept="''"
      placeholder="another word …"
      :invalid="why.has('new delay')"
      @keep="newDelay"
    />
    <small v-if="why.get('new delay')" class="brick" role="alert">{{ why.get('new delay') }}</small>
    <p class="soft">Days are those of the calendar of what a risk falls on.</p>
  </section>
</template>

<style scoped>
section {
  display: flex;
  flex-direction: column;
  gap: 6px;
}
.step {
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 6fr) auto;
  gap: 6px;
  align-items: center;
}
</style>
