<script setup lang="ts">
import { ZoomIn, ZoomOut } from '@lucide/vue'
import { computed } from 'vue'
import ActButton from '../../controls/ActButton.vue'
import IconButton from '../../controls/IconButton.vue'
import SaveAs from '../../controls/SaveAs.vue'
import type { CellContext } from '../rows/columns.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import { wordSize } from './wordsFromAfar.ts'

/** What stands round a diagram: what it shows, folding, zoom and saving above; how it reads below. Nothing covers the drawing. */
const props = withDefaults(
  defineProps<{
    name: string
    context: CellContext
    zoom: number
    canFit?: boolean
    fitTitle?: string
    isDrawn?: boolean
    /** All of it, for a file. */
    drawing: () => string | null
  }>(),
  { canFit: true, fitTitle: 'All of it', isDrawn: true },
)
const emit = defineEmits<{ zoomIn: []; zoomOut: []; fit: [] }>()
const ui = useUiStore()
const groupsOpen = computed(() => props.context.plan.groups.filter((g) => !ui.collapsed.has(g.id)).length)
const foldAll = (): void =>
  void (ui.collapsed = groupsOpen.value > 0 ? new Set(props.context.plan.groups.map((g) => g.id)) : new Set())
</script>

<template>
  <div class="frame" :style="{ '--word': `${wordSize(zoom)}px` }">
    <p v-if="isDrawn" class="bar">
      <span class="soft" role="status"><slot name="status" /></span>
      <ActButton v-if="context.plan.groups.length > 0" @click="foldAll">
        {{ groupsOpen > 0 ? 'Fold all groups' : 'Open all groups' }}
      </ActButton>
      <IconButton :icon="ZoomOut" :label="`Zoom the ${name} out`" @click="emit('zoomOut')" />
      <ActButton :disabled="!canFit" :title="fitTitle" @click="emit('fit')">Fit</ActButton>
      <IconButton :icon="ZoomIn" :label="`Zoom the ${name} in`" @click="emit('zoomIn')" />
      <SaveAs :name="name" :drawing="drawing" />
    </p>
    <div class="field"><slot :fold-all="foldAll" :groups-open="groupsOpen" /></div>
    <p v-if="isDrawn" class="help soft"><slot name="help" /></p>
  </div>
</template>

<style scoped>
.frame {
  display: flex;
  flex-direction: column;
  height: 100%;
  background: var(--paper);
}
.bar {
  padding: 8px 12px;
  display: flex;
  flex-wrap: wrap;
  gap: 6px 8px;
  align-items: center;
}
.bar span {
  margin-right: auto;
  font-size: 12.5px;
}
.bar .act-button {
  flex: none;
}
.field {
  position: relative;
  flex: 1;
  min-height: 0;
  overflow: hidden;
}
.help {
  padding: 3px 18px 6px;
  font-size: 12px;
}
</style>
