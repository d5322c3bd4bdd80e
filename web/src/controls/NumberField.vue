<script setup lang="ts">
import { NInputNumber } from 'naive-ui'

/** A figure with its range. Naive UI's own buttons for more and less have no name: the arrow keys do what they do. */
const props = defineProps<{
  modelValue: number | null
  label: string
  min?: number
  max?: number
  step?: number
}>()
const emit = defineEmits<{ 'update:modelValue': [figure: number] }>()
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
    :input-props="{ 'aria-label': props.label, inputmode: 'numeric' } as never"
    @update:value="take"
  />
</template>
