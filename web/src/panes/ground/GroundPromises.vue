<script setup lang="ts">
import { computed } from 'vue'
import { dateWords, instantOf, State, ROW_HEIGHT, type RowModel } from '@geodrome/core'
import type { CellContext } from '../rows/columns.ts'

/** The dates that were promised in the rows in view: a stroke with a ring on it, filled once the promise was kept. */
const props = defineProps<{
  model: RowModel
  window: readonly { readonly index: number }[]
  context: CellContext
  x: (at: number) => number
}>()
const promises = computed(() => {
  const { plan, view } = props.context
  return props.window.flatMap(({ index }) => {
    const row = props.model.rows[index]
    const activity = row?.kind === 'activity' ? plan.activities[row.index] : undefined
    if (row?.kind !== 'activity' || !activity?.promise) return []
    const due = instantOf(activity.promise.finish, 'finish')
    const isDone = view.state[row.index] === State.Finished
    const isKept = isDone && view.finish[row.index]! <= due
    const became = isKept ? ', kept' : isDone ? ', missed' : ''
    return [
      {
        id: activity.id,
        x: props.x(due),
        y: index * ROW_HEIGHT,
        isKept,
        words: `${activity.code} promised for ${dateWords(activity.promise.finish, 'finish')}${activity.promise.by === '' ? '' : ` by ${activity.promise.by}`}${became}`,
      },
    ]
  })
})
</script>

<template>
  <g v-for="one in promises" :key="one.id" class="promise" data-test="promise-mark">
    <title>{{ one.words }}</title>
    <path :d="`M${one.x},${one.y + 8}V${one.y + ROW_HEIGHT - 3}`" />
    <circle :class="{ kept: one.isKept }" :cx="one.x" :cy="one.y + 5" r="3" />
  </g>
</template>

<style scoped>
.promise path {
  stroke: var(--fjord);
  stroke-width: 1.75;
}
.promise circle {
  fill: var(--paper);
  stroke: var(--fjord);
  stroke-width: 1.75;
}
.promise circle.kept {
  fill: var(--fjord);
}
</style>
