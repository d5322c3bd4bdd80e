<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { positionsOf, readActivityLine } from '@geodrome/core'
import { useForesight } from '../../composables/useForesight.ts'
import { useListCommands } from './useListCommands.ts'
import { useListStore } from './listStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'

const emit = defineEmits<{ paste: [text: string]; leave: [] }>()
const plans = usePlanStore()
const ui = useUiStore()
const list = useListStore()
const { attempt } = useListCommands()
const text = ref('')
const input = ref<HTMLInputElement | null>(null)

/** As it is, not the one whose dates are shown: the next line may be typed before the dates of the last are there. */
const plan = computed(() => plans.plan!)
const place = computed(() => ({ after: ui.group === null ? ui.focus : null, group: ui.group }))
const where = computed(() => {
  const { activities, groups } = plan.value
  const { after, group: id } = place.value
  const activity = after === null ? undefined : activities[positionsOf(activities).get(after) ?? -1]
  if (activity) return `after ${activity.code} in the list`
  const group = groups.find((g) => g.id === id)
  return group ? `in ${group.name || group.code}` : 'at the end of the list'
})
/** Drawn once a text, so that what is shown is what is added. */
const read = computed(() =>
  text.value.trim() === '' ? null : readActivityLine(plan.value, text.value, place.value, Math.random),
)

const foreseen = useForesight(() => (read.value?.ok ? read.value.change : null))

watch(
  () => list.entryAsked,
  async () => {
    await nextTick()
    input.value?.focus()
  },
)
const keep = (): void => {
  const line = read.value
  if (!line?.ok) return
  if (!attempt(() => plans.edit(line.change))) return
  if (line.kind === 'group') {
    ui.selection = []
    ui.group = line.id
  } else ui.select(line.id, { show: true })
  text.value = ''
}
const paste = (event: ClipboardEvent): void => {
  const pasted = event.clipboardData?.getData('text/plain') ?? ''
  if (!pasted.trim().includes('\n') && !pasted.includes('\t')) return
  event.preventDefault()
  emit('paste', pasted)
}
</script>

<template>
  <div class="entry">
    <input
      ref="input"
      v-model="text"
      data-test="entry"
      :aria-label="`New activity, ${where}`"
      :placeholder="`New line: name, duration, after K30   (${where})`"
      :aria-invalid="read?.ok === false"
      aria-describedby="entry-understood"
      @keydown.enter.prevent="keep"
      @keydown.esc.prevent="text === '' ? emit('leave') : (text = '')"
      @paste="paste"
    />
    <span v-if="read" id="entry-understood" class="understood" :class="{ bad: !read.ok }" role="status"
      >{{ read.ok ? read.words : read.why }}<span v-if="foreseen" class="foreseen">{{ foreseen }}</span></span
    >
  </div>
</template>

<style scoped>
.entry {
  position: relative;
  display: flex;
  flex: none;
  height: 36px;
  padding: 4px 8px;
  background: var(--paper);
  border-top: 1px solid var(--hairline);
}
input {
  flex: 1;
  min-width: 0;
  border: 1.5px dashed var(--line);
  border-radius: 7px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
  padding: 0 10px;
  outline: none;
}
input:focus {
  border-style: solid;
  border-color: var(--ink);
}
input[aria-invalid='true'] {
  border-color: var(--brick);
}
input::placeholder {
  color: var(--soft-ink);
  opacity: 1;
}
.understood {
  position: absolute;
  left: 10px;
  right: 10px;
  bottom: calc(100% + 3px);
  background: var(--ink);
  color: var(--paper);
  border-radius: 5px;
  padding: 3px 9px;
  font-size: 12.5px;
  z-index: 7;
}
.foreseen {
  display: block;
}
.understood.bad {
  background: var(--brick);
  color: var(--raised);
}
</style>
