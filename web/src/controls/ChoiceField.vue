<script setup lang="ts" generic="V extends string | number">
import { NSelect, type SelectOption } from 'naive-ui'
import { computed, nextTick, onMounted, ref, useId, useTemplateRef, watchPostEffect } from 'vue'

/**
 * One of several, chosen from a list. Naive UI's select says nothing to a screen reader: this one gives it the combobox's role,
 * name and state, and its options theirs.
 */
const props = defineProps<{
  modelValue: V | null
  options: readonly { readonly value: V; readonly label: string; readonly disabled?: boolean }[]
  label: string
  disabled?: boolean
  placeholder?: string
}>()
const emit = defineEmits<{ 'update:modelValue': [value: V] }>()
const id = useId()
const isOpen = ref(false)
const select = useTemplateRef<{ $el: HTMLElement }>('select')

const trigger = (): HTMLElement | null => select.value?.$el.querySelector('.n-base-selection-label') ?? null
const name = (): void => {
  const element = trigger()
  if (!element) return
  const chosen = props.options.find((option) => option.value === props.modelValue)?.label
  element.setAttribute('role', 'combobox')
  element.setAttribute('aria-haspopup', 'listbox')
  element.setAttribute('aria-expanded', String(isOpen.value))
  element.setAttribute('aria-label', chosen === undefined ? props.label : `${props.label}: ${chosen}`)
  if (isOpen.value) element.setAttribute('aria-controls', `${id}-list`)
  else element.removeAttribute('aria-controls')
}
onMounted(name)
watchPostEffect(name)
/** Tells which option the keys have come to. */
const follow = async (): Promise<void> => {
  await nextTick()
  const at = document.querySelector(`[id^="${id}-option-"].n-base-select-option--pending`)
  if (at && isOpen.value) trigger()?.setAttribute('aria-activedescendant', at.id)
  else trigger()?.removeAttribute('aria-activedescendant')
}
const options = computed(() => props.options as readonly SelectOption[] as SelectOption[])
const valueOf = (option: object): unknown => (option as SelectOption).value
const optionProps = (option: object): Record<string, unknown> => ({
  role: 'option',
  id: `${id}-option-${props.options.findIndex((o) => o.value === valueOf(option))}`,
  'aria-selected': valueOf(option) === props.modelValue,
})
</script>

<template>
  <NSelect
    ref="select"
    v-model:show="isOpen"
    class="choice-field"
    size="small"
    :value="modelValue"
    :options="options"
    :disabled="disabled"
    :placeholder="placeholder ?? ''"
    :consistent-menu-width="false"
    :node-props="optionProps"
    :menu-props="{ id: `${id}-list`, role: 'listbox', 'aria-label': label } as never"
    @update:value="emit('update:modelValue', $event)"
    @update:show="follow"
    @keyup="follow"
  />
</template>
