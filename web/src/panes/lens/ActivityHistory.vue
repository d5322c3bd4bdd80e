<script setup lang="ts">
import { computed } from 'vue'
import { describeChange, type Change } from '@geodrome/core'
import { useLensStore } from '../../stores/lensStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'

/** What was changed of an activity, and by whom, as far as the log that came with the plan goes back. */
const props = defineProps<{ activity: string }>()
const plans = usePlanStore()
const lens = useLensStore()

const touching = (change: Change): Change[] => {
  if (change.kind === 'all') return change.changes.flatMap(touching)
  if (change.kind === 'add') return change.item.id === props.activity || change.item.from === props.activity || change.item.to === props.activity ? [change] : []
  if (change.kind === 'project') return []
  if (change.key === props.activity) return [change]
  const link = change.list === 'links' ? lens.plan!.links.find((l) => l.id === change.key) : undefined
  return link && (link.from === props.activity || link.to === props.activity) ? [change] : []
}
const entries = computed(() =>
  plans.log
    .flatMap((entry) => {
      const [part] = touching(entry.change)
      return part ? [{ key: entry.uid, author: entry.author, at: new Date(entry.at), words: wordsOf(part, touching(entry.inverse)) }] : []
    })
    .slice(-6)
    .reverse(),
)
/** A change of this activity with the value before it, which its inverse holds; of its links in today's names. */
const wordsOf = (change: Change, inverse: readonly Change[]): string => {
  const plan = lens.plan!
  if (change.kind !== 'set') return describeChange(plan, change)
  const was = inverse.find((other) => other.kind === 'set' && other.list === change.list && other.key === change.key)
  const before = (was?.kind === 'set' ? was.set : {}) as object
  const earlier = change.list === 'activities'
    ? { ...plan, activities: plan.activities.map((a) => (a.id === change.key ? { ...a, ...before } : a)) }
    : change.list === 'links' ? { ...plan, links: plan.links.map((l) => (l.id === change.key ? { ...l, ...before } : l)) } : plan
  return describeChange(earlier, change).replace(`${[lens.activity(props.activity)?.code, lens.activity(props.activity)?.name].filter(Boolean).join(' ')}, `, '')
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
