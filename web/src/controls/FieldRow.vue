<script setup lang="ts">
/** A fact in a panel: what it is, the control that holds it, and below that what was understood, or why what was typed was not taken. */
defineProps<{ label: string; problem?: string }>()
</script>

<template>
  <component :is="$slots.choice ? 'div' : 'label'" class="field-row">
    <span>{{ label }}</span>
    <slot name="choice" />
    <slot />
    <small v-if="problem" class="brick" role="alert">{{ problem }}</small>
    <small v-else-if="$slots.note" class="soft"><slot name="note" /></small>
  </component>
</template>

<style scoped>
.field-row {
  display: grid;
  grid-template-columns: var(--field-label, 108px) minmax(0, 1fr);
  align-items: center;
  gap: 2px 8px;
}
.field-row > span {
  color: var(--soft-ink);
}
.field-row > small {
  grid-column: 2;
}
</style>
