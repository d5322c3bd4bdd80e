<script setup lang="ts" generic="V extends string">
import { NTab, NTabs } from 'naive-ui'
import { nextTick, useTemplateRef } from 'vue'

/** The parts of a stage. Naive UI's tabs can be clicked only: these have their roles, and the arrows lead from one to the next. */
const props = defineProps<{
  modelValue: V
  parts: readonly { readonly value: V; readonly label: string }[]
  label: string
}>()
const emit = defineEmits<{ 'update:modelValue': [part: V] }>()
const tabs = useTemplateRef<{ $el: HTMLElement }>('tabs')

const step = async (by: number): Promise<void> => {
  const at = props.parts.findIndex((part) => part.value === props.modelValue)
  const next = props.parts[(at + by + props.parts.length) % props.parts.length]!
  emit('update:modelValue', next.value)
  await nextTick()
  tabs.value?.$el.querySelector<HTMLElement>(`[role=tab][data-name="${next.value}"]`)?.focus()
}
</script>

<template>
  <NTabs
    ref="tabs"
    class="part-tabs"
    type="line"
    size="small"
    role="tablist"
    :aria-label="label"
    :value="modelValue"
    @update:value="emit('update:modelValue', $event as V)"
  >
    <NTab
      v-for="part in parts"
      :key="part.value"
      :name="part.value"
      role="tab"
      :tabindex="part.value === modelValue ? 0 : -1"
      :aria-selected="part.value === modelValue"
      @keydown.right.prevent="step(1)"
      @keydown.left.prevent="step(-1)"
      @keydown.enter="emit('update:modelValue', part.value)"
    >
      {{ part.label }}
    </NTab>
  </NTabs>
</template>
