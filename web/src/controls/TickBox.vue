<script setup lang="ts">
import { NCheckbox } from 'naive-ui'

/** Yes or no, with its words beside it. */
defineProps<{ modelValue: boolean; disabled?: boolean }>()
const emit = defineEmits<{ 'update:modelValue': [isOn: boolean] }>()
</script>

<template>
  <NCheckbox
    class="tick-box"
    :checked="modelValue"
    :disabled="disabled"
    :aria-disabled="disabled || undefined"
    size="small"
    @update:checked="emit('update:modelValue', $event)"
  >
    <slot />
  </NCheckbox>
</template>
