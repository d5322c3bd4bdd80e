<script setup lang="ts">
import { computed } from 'vue'
import { frozenBy, type Baseline, ROW_HEIGHT, type RowModel, bracketPath } from '@geodrome/core'

/** Where a baseline has the activities of the rows in view: an open bracket at its start, and one at its finish. */
const props = defineProps<{
  baseline: Baseline
  model: RowModel
  window: readonly { readonly index: number }[]
  x: (at: number) => number
}>()
const path = computed(() => {
  const frozen = frozenBy(props.baseline)
  return props.window
    .map(({ index }) => {
      const row = props.model.rows[index]
      const then = row?.kind === 'activity' ? frozen.get(row.id) : undefined
      if (!then || then.finish === null) return ''
      return bracketPath(props.x(then.start ?? then.finish), props.x(then.finish), index * ROW_HEIGHT)
    })
    .join('')
})
</script>

<template>
  <path :class="['bracket', baseline.ink || 'plum']" :d="path" data-test="brackets">
    <title>{{ baseline.name || 'Baseline' }}</title>
  </path>
</template>

<style scoped>
.bracket {
  fill: none;
  stroke: var(--plum);
  stroke-width: 1.75;
  pointer-events: none;
}
.bracket.fjord {
  stroke: var(--fjord);
}
.bracket.brick {
  stroke: var(--brick);
}
.bracket.moss {
  stroke: var(--moss);
}
</style>
