<script setup lang="ts">
import FieldRow from './FieldRow.vue'
import TextField from './TextField.vue'

/** A fact that is typed, and read when it is left. Attributes go to the field; `named` is its name where the label says too little. */
defineOptions({ inheritAttrs: false })
defineProps<{ label: string; kept: string | number | null; problem?: string; named?: string }>()
defineEmits<{ keep: [text: string] }>()
</script>

<template>
  <FieldRow :label="label" :problem="problem">
    <TextField
      v-bind="$attrs"
      :kept="kept"
      :label="named"
      :invalid="problem !== undefined"
      @keep="$emit('keep', $event)"
    />
    <template v-if="$slots.note" #note><slot name="note" /></template>
  </FieldRow>
</template>
