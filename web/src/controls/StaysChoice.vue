<script setup lang="ts">
import type { Stays } from '@geodrome/core'
import { optionsOf } from './options.ts'
import RadioChoice from './RadioChoice.vue'

/** What stays where a day has another length than before. */
defineProps<{ modelValue: Stays }>()
const emit = defineEmits<{ 'update:modelValue': [stays: Stays] }>()
const OPTIONS = optionsOf<Stays>([
  ['days', 'the days: 5 d stays 5 d, the work grows or shrinks'],
  ['minutes', 'the work: 40 h stays 40 h, said in other days'],
])
</script>

<template>
  <RadioChoice
    label="What stays"
    :model-value="modelValue"
    :options="OPTIONS"
    @update:model-value="emit('update:modelValue', $event)"
  />
</template>
