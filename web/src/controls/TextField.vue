<script setup lang="ts">
import { NInput } from 'naive-ui'
import { computed, ref, useAttrs, useTemplateRef, watch, watchPostEffect } from 'vue'

/**
 * A line or block of text. With `v-model` each letter counts; with `:kept` it is read when it is left or Enter is pressed (`@keep`):
 * what is being typed stays, whatever is drawn anew around it, and so does what was not understood, until the value itself changes.
 * Attributes and listeners go to the input. `class` and `style` to the box around it.
 */
defineOptions({ inheritAttrs: false })
const props = defineProps<{
  modelValue?: string | number | null
  kept?: string | number | null
  label?: string
  invalid?: boolean
  disabled?: boolean
  placeholder?: string
  maxlength?: number | string
  /** Lines of a block; without it, it is one line. */
  rows?: number
  /** What is typed is not shown. */
  secret?: boolean
}>()
const emit = defineEmits<{ 'update:modelValue': [text: string]; keep: [text: string] }>()
const attrs = useAttrs()
const input = useTemplateRef<InstanceType<typeof NInput>>('input')

const typed = ref<string | null>(null)
let isTyping = false
const shown = computed(() => {
  if (props.kept === undefined) return String(props.modelValue ?? '')
  return typed.value ?? String(props.kept ?? '')
})
watch(
  () => props.kept,
  () => {
    if (!isTyping) typed.value = null
  },
)
const type = (text: string): void => {
  isTyping = true
  typed.value = text
  emit('update:modelValue', text)
}
const leave = (text: string): void => {
  isTyping = false
  if (props.kept !== undefined) emit('keep', text)
}
const inputProps = computed((): Record<string, unknown> => {
  const { class: _class, style: _style, ...rest } = attrs
  return {
    ...rest,
    ...(props.label === undefined ? {} : { 'aria-label': props.label }),
    ...(props.invalid ? { 'aria-invalid': 'true' } : {}),
  }
})
// The input's own placeholder: the library's is an element beside it, and would be part of a label's text.
watchPostEffect(() => {
  const element = input.value?.inputElRef ?? input.value?.textareaElRef
  if (element) element.placeholder = props.placeholder ?? ''
})
defineExpose({ focus: () => input.value?.focus(), select: () => input.value?.select() })
</script>

<template>
  <NInput
    ref="input"
    class="text-field"
    :class="attrs.class"
    :style="attrs.style as string"
    size="small"
    :type="secret ? 'password' : rows === undefined ? 'text' : 'textarea'"
    :rows="rows ?? 1"
    :value="shown"
    :disabled="disabled"
    :status="invalid ? 'error' : undefined"
    placeholder=""
    :maxlength="maxlength"
    :input-props="inputProps"
    @update:value="type"
    @change="leave"
  />
</template>
