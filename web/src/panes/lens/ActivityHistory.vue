<script setup lang="ts">
import { computed } from 'vue'
import { applyUnchecked, describeChange, type Change } from '@geodrome/core'
import { momentWords } from '../../composables/momentWords.ts'
import { useLensStore } from '../../stores/lensStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'

/** What was changed of an activity, and by whom, as far as the log that came with the plan goes back. */
const props = defineProps<{ activity: string }>()
const plans = usePlanStore()
const lens = useLensStore()

const touching = (change: Change): Change[] => {
  if (change.kind === 'all') return change.changes.flatMap(touching)
  if (change.kind === 'add')
    return change.item.id === props.activity ||
      change.item.from === props.activity ||
      change.item.to === props.activity
      ? [change]
      : []
  if (change.kind === 'project') return []
  if (change.key === props.activity) return [change]
  const link = change.list === 'links' ? lens.plan!.links.find((l) => l.id === change.key) : undefined
  return link && (link.from === props.activity || link.to === props.activity) ? [change] : []
}
const MOST = 6
/** The latest first; found from the end of the log, which may be long. */
const entries = computed(() => {
  const found: { key: string; author: string; at: string; words: string }[] = []
  for (let k = plans.log.length - 1; k >= 0 && found.length < MOST; k--) {
    const entry = plans.log[k]!
    const [part] = touching(entry.change)
    if (part)
      found.push({
        key: entry.uid,
        author: entry.author,
        at: momentWords(entry.at),
        words: wordsOf(part, touching(entry.inverse)),
      })
  }
  return found
})
/** A change of this activity with the value before it, which its inverse holds; of its links in today's names. */
const wordsOf = (change: Change, inverse: readonly Change[]): string => {
  const plan = lens.plan!
  if (change.kind !== 'set') return describeChange(plan, change)
  const was = inverse.find(
    (other) => other.kind === 'set' && other.list === change.list && other.key === change.key,
  )
  const earlier =
    was?.kind === 'set' && (change.list === 'activities' || change.list === 'links')
      ? applyUnchecked(plan, was).plan
      : plan
  const { code, name } = lens.activity(props.activity) ?? {}
  return describeChange(earlier, change).replace(`${[code, name].filter(Boolean).join(' ')}, `, '')
}
</script>

<template>
  <section v-if="entries.length > 0" class="history">
    <h3>What was changed here</h3>
    <p v-for="entry in entries" :key="entry.key">
      <span class="soft">{{ entry.at }}, {{ entry.author }}</span> {{ entry.words }}
    </p>
  </section>
</template>

<style scoped>
.history {
  padding: 10px 0;
}
p {
  padding: 2px 0;
  overflow-wrap: anywhere;
}
</style>
