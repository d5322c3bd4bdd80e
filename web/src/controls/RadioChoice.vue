<script setup lang="ts" generic="V extends string | number">
import { NRadio, NRadioGroup } from 'naive-ui'

/** One of a few, all in sight, one under the other. A slot named `option` words them otherwise than by their label. */
defineProps<{
  modelValue: V | null
  options: readonly { readonly value: V; readonly label: string; readonly disabled?: boolean }[]
  /** Says what is chosen, to who cannot see the heading. */
  label: string
}>()
const emit = defineEmits<{ 'update:modelValue': [value: V] }>()
</script>

<template>
  <NRadioGroup
    class="radio-choice"
    role="radiogroup"
    :aria-label="label"
    :value="modelValue"
    @update:value="emit('update:modelValue', $event as V)"
  >
    <NRadio
      v-for="option in options"
      :key="option.value"
      :value="option.value"
      :disabled="option.disabled ?? false"
    >
      <slot name="option" :option="option">{{ option.label }}</slot>
    </NRadio>
  </NRadioGroup>
</template>

<style scoped>
.radio-choice {
  display: grid;
  gap: 4px;
}
.radio-choice :deep(.n-radio-input) {
  /* The library's has no size, and so no place to point at. */
  inset: 0;
  width: 100%;
  height: 100%;
  margin: 0;
  cursor: pointer;
}
.radio-choice :deep(.n-radio) {
  position: relative;
  white-space: normal;
}
.radio-choice :deep(.n-radio__label) {
  flex: 1;
}
</style>
