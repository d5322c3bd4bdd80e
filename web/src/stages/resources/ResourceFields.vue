<script setup lang="ts">
import { computed } from 'vue'
import {
  availableWords,
  counted,
  instantOf,
  readAmount,
  readAvailable,
  removeResource,
  type Change,
  type Item,
  type Resource,
} from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import TextRow from '../../controls/TextRow.vue'
import ChoiceRow from '../../controls/ChoiceRow.vue'
import { optionsOf } from '../../controls/options.ts'
import { useAttempt } from '../../composables/useAttempt.ts'
import { useRefusals } from '../../composables/useRefusals.ts'
import { usePlanStore } from '../../stores/planStore.ts'

/** What is said of one resource, each fact edited where it stands. */
const props = defineProps<{ resource: Resource; users: readonly string[] }>()
const plans = usePlanStore()
const { problem, attempt } = useAttempt()
const { why, refuse, accept } = useRefusals(() => props.resource.id)

const KINDS = [
  ['people', 'People'],
  ['plant', 'Plant'],
  ['material', 'Material'],
  ['fee', 'Fee'],
] as const
const PERS = [
  ['hour', 'an hour'],
  ['day', 'a day'],
  ['quantity', 'each'],
  ['call', 'a call'],
] as const
const ACCRUALS = [
  ['', 'as usual'],
  ['even', 'evenly over the work'],
  ['start', 'when the work starts'],
  ['finish', 'when it is finished'],
] as const
const calendars = computed(() => [
  { value: '', label: 'no hours of its own' },
  ...plans.plan!.calendars.map((c) => ({ value: c.id, label: c.name || c.id })),
])
const isWorker = computed(() => props.resource.kind === 'people' || props.resource.kind === 'plant')

const change = (set: Item): Change => ({ kind: 'set', list: 'resources', key: props.resource.id, set })
const set = (fields: Item): boolean => attempt(() => plans.edit(change(fields)))
const setText = (field: 'code' | 'name', text: string): void => {
  const value = text.trim()
  if (value !== props.resource[field]) set({ [field]: value })
}
const setPrice = (text: string): void => {
  const price = text.trim() === '' ? 0 : readAmount(text)
  if (price === null)
    return refuse('price', `“${text.trim()}” is not an amount; write for example 52 or 1,850.50`)
  if (price < 0) return refuse('price', 'a price is 0 or more; what is paid back is a payment the other way')
  accept('price')
  if (price !== props.resource.price) set({ price })
}
const setAvailable = (text: string): void => {
  const read = readAvailable(text, instantOf(plans.plan!.project.start, 'start'))
  if (!read.ok) return refuse('available', read.why)
  accept('available')
  if (JSON.stringify(read.available) !== JSON.stringify(props.resource.available))
    set({ available: read.available })
}
const remove = (): void => void attempt(() => plans.edit(removeResource(plans.plan!, props.resource.id)))
const consequence = computed(() =>
  props.users.length === 0
    ? 'Nothing is assigned to it.'
    : `${props.users.slice(0, 4).join(', ')}${props.users.length > 4 ? ` and ${props.users.length - 4} more` : ''} ${props.users.length === 1 ? 'has' : 'have'} it; they stay, without it and its cost.`,
)
</script>

<template>
  <section class="fields">
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
    <TextRow label="Code" :kept="resource.code" @keep="setText('code', $event)" />
    <TextRow label="Name" :kept="resource.name" data-test="resource-name" @keep="setText('name', $event)" />
    <ChoiceRow
      label="Kind"
      named="Kind"
      :model-value="resource.kind"
      :options="optionsOf(KINDS)"
      @update:model-value="set({ kind: $event })"
    />
    <TextRow
      :label="`Price, ${plans.plan!.project.currency}`"
      :problem="why.get('price')"
      :kept="resource.price || ''"
      placeholder="0"
      inputmode="decimal"
      data-test="resource-price"
      @keep="setPrice"
    />
    <ChoiceRow
      label="for"
      named="What the price is for"
      :model-value="resource.per"
      :options="optionsOf(PERS)"
      @update:model-value="set({ per: $event })"
    />
    <TextRow
      v-if="isWorker"
      label="How many there are"
      :problem="why.get('available')"
      :kept="resource.available.length === 0 ? '' : availableWords(resource)"
      placeholder="no limit; or 4, 6 from 10 may"
      data-test="resource-available"
      @keep="setAvailable"
    />
    <ChoiceRow
      v-if="isWorker"
      label="Hours"
      named="Hours of the resource"
      :model-value="resource.calendar ?? ''"
      :options="calendars"
      @update:model-value="set({ calendar: $event === '' ? null : $event })"
    />
    <ChoiceRow
      label="Its cost falls due"
      named="When its cost falls due"
      :model-value="resource.accrue ?? ''"
      :options="optionsOf(ACCRUALS)"
      @update:model-value="set({ accrue: $event === '' ? null : $event })"
    />
    <p class="remove">
      <ActButton data-test="remove-resource" @click="remove"
        >Remove {{ resource.code || resource.name }}</ActButton
      >
      <small class="soft"
        >{{ consequence }}
        {{ users.length > 0 ? `${counted(users.length, 'assignment')} would go along.` : '' }}</small
      >
    </p>
  </section>
</template>

<style scoped>
.fields {
  display: flex;
  flex-direction: column;
  gap: 6px;
}
.remove {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  gap: 4px;
  margin-top: 8px;
}
</style>
