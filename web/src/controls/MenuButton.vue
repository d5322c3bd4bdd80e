<script setup lang="ts" generic="K extends string">
import { NDropdown, type DropdownOption } from 'naive-ui'
import { ref } from 'vue'
import ActButton from './ActButton.vue'

/** A button that opens a list of things to do. */
const props = defineProps<{
  label: string
  options: readonly { readonly key: K; readonly label: string; readonly disabled?: boolean }[]
}>()
const emit = defineEmits<{ choose: [key: K] }>()
const isOpen = ref(false)
const menuOptions = (): DropdownOption[] =>
  props.options.map(({ key, label, disabled }) => ({ key, label, disabled }))
</script>

<template>
  <NDropdown
    trigger="click"
    size="small"
    :options="menuOptions()"
    :keyboard="true"
    @select="(key: string) => emit('choose', key as K)"
    @update:show="isOpen = $event"
  >
    <ActButton kind="bare" aria-haspopup="menu" :aria-expanded="isOpen" :aria-label="label" :title="label">
      <slot>{{ label }}</slot> ▾
    </ActButton>
  </NDropdown>
</template>
