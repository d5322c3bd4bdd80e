<script setup lang="ts" generic="V extends string | number">
import ChoiceField from './ChoiceField.vue'
import FieldRow from './FieldRow.vue'

/** A fact that is chosen from a list. `named` says the whole of it to who does not see the label. */
defineProps<{
  label: string
  named: string
  modelValue: V | null
  options: readonly { readonly value: V; readonly label: string; readonly disabled?: boolean }[]
}>()
defineEmits<{ 'update:modelValue': [value: V] }>()
</script>

<template>
  <FieldRow :label="label">
    <template #choice>
      <ChoiceField
        :label="named"
        :model-value="modelValue"
        :options="options"
        @update:model-value="$emit('update:modelValue', $event)"
      />
    </template>
  </FieldRow>
</template>
