<script setup lang="ts" generic="V extends string">
import { optionsOf } from './options.ts'
import PartTabs from './PartTabs.vue'

/** A stage in parts: its tabs above, beside them what concerns a part, below them the one that is shown. On paper the part alone. */
defineProps<{
  label: string
  /** The one that is shown. */
  part: V
  parts: readonly (readonly [name: V, label: string])[]
}>()
const emit = defineEmits<{ go: [part: V] }>()
</script>

<template>
  <div class="parted-stage">
    <div class="parts">
      <PartTabs
        :label="label"
        :model-value="part"
        :parts="optionsOf(parts)"
        @update:model-value="emit('go', $event)"
      />
      <slot name="beside" />
    </div>
    <slot />
  </div>
</template>

<style scoped>
.parted-stage {
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
}
.parts {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 16px;
  padding: 4px 18px 0;
  border-bottom: 1px solid var(--hairline);
}
@media print {
  .parted-stage {
    display: block;
  }
  .parts {
    display: none;
  }
}
</style>
