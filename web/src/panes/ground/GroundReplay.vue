<script setup lang="ts">
import { computed } from 'vue'
import { instantOf, type ReplayLook, ROW_HEIGHT, type RowModel } from '@geodrome/core'

/** One iteration of a run under the plan's own shapes: where it has each activity, and from where it came. */
const props = defineProps<{
  replay: ReplayLook
  model: RowModel
  window: readonly { readonly index: number }[]
  x: (at: number) => number
}>()
const HEIGHT = 6
const drawn = computed(() => {
  const work: string[] = []
  const points: string[] = []
  for (const { index } of props.window) {
    const row = props.model.rows[index]
    const then = row?.kind === 'activity' ? props.replay.activities[row.id] : undefined
    if (!then) continue
    const [x1, x2] = [props.x(instantOf(then.start, 'start')), props.x(instantOf(then.finish, 'finish'))]
    const top = (index + 1) * ROW_HEIGHT - HEIGHT - 1
    if (x2 - x1 < 1) points.push(`M${x1},${top - 1}l4,4l-4,4l-4,-4z`)
    else {
      const width = Math.max(HEIGHT, x2 - x1) - HEIGHT
      const r = HEIGHT / 2
      work.push(
        `M${x1 + r},${top}h${width}a${r},${r} 0 0 1 0,${HEIGHT}h${-width}a${r},${r} 0 0 1 0,${-HEIGHT}z`,
      )
    }
  }
  return { work: work.join(''), points: points.join('') }
})
const finish = computed(() => props.x(instantOf(props.replay.finish, 'finish')))
</script>

<template>
  <g class="replay" data-test="ground-replay">
    <path :d="drawn.work" />
    <path :d="drawn.points" />
    <line :x1="finish" :x2="finish" y1="0" :y2="model.rows.length * ROW_HEIGHT" />
  </g>
</template>

<style scoped>
.replay {
  pointer-events: none;
}
path {
  fill: var(--fjord);
  stroke: var(--paper);
  stroke-width: 1;
}
line {
  stroke: var(--fjord);
  stroke-width: 1.5;
  stroke-dasharray: 7 3 1.5 3;
}
</style>
