<script setup lang="ts">
import { X } from '@lucide/vue'
import ActButton from '../controls/ActButton.vue'
import IconButton from '../controls/IconButton.vue'
import { onKeyStroke } from '@vueuse/core'
import { computed } from 'vue'
import { momentWords } from '../composables/momentWords.ts'
import { usePlanStore } from '../stores/planStore.ts'
import { useUiStore } from '../stores/uiStore.ts'

/** The changes of the plan, newest first, with who made them; any of one's own can be taken back. */
const plans = usePlanStore()
const ui = useUiStore()
onKeyStroke('Escape', () => (ui.changesOpen = false))

const undoable = computed(() => new Set(plans.stacks.undo))
const taken = computed(() => new Set(plans.log.flatMap((entry) => (entry.undoes ? [entry.undoes] : []))))
const entries = computed(() => [
  ...plans.pending
    .map((p) => ({ uid: p.uid, label: p.label, author: p.author, at: 'waiting here, not stored' }))
    .reverse(),
  ...plans.log
    .map((entry) => ({
      uid: entry.uid,
      label: plans.describe(entry),
      author: entry.author,
      at: momentWords(entry.at),
    }))
    .reverse(),
])
</script>

<template>
  <aside v-if="ui.changesOpen" class="changes" aria-label="Changes">
    <header>
      <h2>Changes</h2>
      <IconButton :icon="X" class="close" label="Close" @click="ui.changesOpen = false" />
    </header>
    <p class="row">
      <ActButton :disabled="plans.stacks.undo.length === 0 && !plans.hasEarlier" @click="plans.undo()">
        Undo
      </ActButton>
      <ActButton :disabled="plans.stacks.redo.length === 0" @click="plans.redo()">Redo</ActButton>
    </p>
    <p v-if="plans.refusal" class="brick" role="alert">{{ plans.refusal }}</p>
    <ol class="scroll" tabindex="0" aria-label="Changes, newest first">
      <li v-for="entry in entries" :key="entry.uid" :class="{ taken: taken.has(entry.uid) }">
        <span>{{ entry.label }}</span>
        <small class="soft"
          >{{ entry.author }}, {{ entry.at
          }}<template v-if="taken.has(entry.uid)">, taken back</template></small
        >
        <ActButton kind="noun" v-if="undoable.has(entry.uid)" @click="plans.takeBack(entry.uid)">
          Take it back
        </ActButton>
      </li>
      <li v-if="plans.hasEarlier">
        <ActButton kind="noun" data-test="earlier-changes" @click="plans.loadEarlier()">
          Show earlier changes
        </ActButton>
      </li>
      <li v-if="entries.length === 0" class="soft">Nothing was changed yet.</li>
    </ol>
    <p class="soft">What rests on a later change is refused with the reason.</p>
  </aside>
</template>

<style scoped>
.changes {
  position: fixed;
  right: 18px;
  bottom: 44px;
  top: 62px;
  width: 380px;
  display: flex;
  flex-direction: column;
  gap: 8px;
  background: var(--raised);
  border: 1.5px solid var(--ink);
  border-radius: 10px;
  padding: 14px 18px;
  z-index: 20;
}
header,
.row {
  display: flex;
  gap: 8px;
  justify-content: space-between;
  align-items: center;
}
.row {
  justify-content: start;
}
.close {
  width: 28px;
  height: 28px;
  text-align: center;
  font-size: 18px;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
  flex: 1;
  border-top: 1px solid var(--hairline);
}
li {
  display: flex;
  flex-direction: column;
  align-items: start;
  padding: 7px 0;
  border-bottom: 1px solid var(--hairline);
}
li.taken span {
  text-decoration: line-through;
  color: var(--soft-ink);
}
</style>
