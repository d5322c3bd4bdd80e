<script setup lang="ts">
import { computed } from 'vue'
import { describeChange, type Change } from '@geodrome/core'
import { usePlanStore } from '../../stores/planStore.ts'

/** What was changed of an activity, and by whom, as far as the log that came with the plan goes back. */
const props = defineProps<{ activity: string }>()
const plans = usePlanStore()

const touching = (change: Change): Change[] => {
  if (change.kind === 'all') return change.changes.flatMap(touching)
  if (change.kind === 'add') return change.item.id === props.activity || change.item.from === props.activity || change.item.to === props.activity ? [change] : []
  if (change.kind === 'project') return []
  if (change.key === props.activity) return [change]
  const link = change.list === 'links' ? plans.plan!.links.find((l) => l.id === change.key) : undefined
  return link && (link.from === props.activity || link.to === props.activity) ? [change] : []
}
const entries = computed(() =>
  plans.log
    .flatMap((entry) => {
      const parts = touching(entry.change)
      return parts.length === 0 ? [] : [{ key: entry.uid, author: entry.author, at: new Date(entry.at), words: wordsOf(parts[0]!) }]
    })
    .slice(-6)
    .reverse(),
)
/** Values before a change are gone; what it set is said with the names of today. */
const wordsOf = (change: Change): string => {
  if (change.kind === 'set' && change.list === 'activities') return Object.entries(change.set).map(([field, value]) => `${field} ${typeof value === 'object' && value !== null ? 'changed' : `→ ${String(value)}`}`).join(', ')
  return describeChange(plans.plan!, change)
}
const when = (at: Date): string => at.toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' })
</script>

<template>
  <section v-if="entries.length > 0" class="history">
    <h3>What was changed here</h3>
    <p v-for="entry in entries" :key="entry.key"><span class="soft">{{ when(entry.at) }}, {{ entry.author }}</span> {{ entry.words }}</p>
  </section>
</template>

<style scoped>
.history { padding: 10px 0; }
p { padding: 2px 0; overflow-wrap: anywhere; }
</style>
