<script setup lang="ts">
import { readAmount } from '@geodrome/core'
import { NInputNumber } from 'naive-ui'

/**
 * A figure with its range, read like any other when it has been typed: not letter by letter, in the middle of "10,000". Naive UI's own
 * buttons for more and less have no name: the arrow keys do what they do.
 */
const props = defineProps<{
  modelValue: number | null
  label: string
  min?: number
  max?: number
  step?: number
}>()
const emit = defineEmits<{ 'update:modelValue': [figure: number] }>()
/** What is no figure leaves the one that was there. */
const read = (text: string): number | null => (text.trim() === '' ? null : (readAmount(text) ?? Number.NaN))
const take = (figure: number | null): void => {
  if (figure !== null) emit('update:modelValue', figure)
}
</script>

<template>
  <NInputNumber
    class="number-field"
    size="small"
    :show-button="false"
    :value="modelValue"
    :min="min"
    :max="max"
    :step="step ?? 1"
    :parse="read"
    :update-value-on-input="false"
    :input-props="{ 'aria-label': props.label, inputmode: 'numeric' } as never"
    @update:value="take"
  />
</template>
