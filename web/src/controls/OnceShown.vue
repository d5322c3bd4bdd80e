<script setup lang="ts">
import { watch } from 'vue'
import { useAttempt } from '../composables/useAttempt.ts'
import { useCopy } from '../composables/useCopy.ts'
import ActButton from './ActButton.vue'

/** An address that opens something, told once: it is kept nowhere. */
const props = defineProps<{ address: string }>()
const { isCopied, copy } = useCopy()
const { problem, attemptLater } = useAttempt()
watch(
  () => props.address,
  () => (isCopied.value = false),
)
</script>

<template>
  <div class="once" role="status">
    <p><slot /> <strong>This is the only time that it is shown:</strong> it is not kept here.</p>
    <p class="code address" data-test="address">{{ address }}</p>
    <p class="acts">
      <ActButton @click="attemptLater(() => copy(address))">{{ isCopied ? 'Copied' : 'Copy it' }}</ActButton>
      <slot name="acts" />
    </p>
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
.once {
  background: var(--wash);
  border-left: 4px solid var(--signal);
  border-radius: 4px;
  padding: 10px 14px;
  display: grid;
  gap: 6px;
}
.address {
  overflow-wrap: anywhere;
  user-select: all;
}
.acts {
  display: flex;
  gap: 14px;
  align-items: center;
}
</style>
