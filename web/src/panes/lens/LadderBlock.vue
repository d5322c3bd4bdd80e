<script setup lang="ts">
import ActButton from '../../controls/ActButton.vue'
import type { EdgeWords } from '@geodrome/core'
import { computed, ref } from 'vue'
import SentenceText from './SentenceText.vue'

const props = defineProps<{ words: EdgeWords; name: string }>()
const SHOWN = 2
const all = ref(false)
const next = computed(() => (all.value ? props.words.nextInLine : props.words.nextInLine.slice(0, SHOWN)))
</script>

<template>
  <section class="block" :data-test="`explain-${name}`">
    <p class="sentence"><SentenceText :sentence="words.sentence" /></p>
    <ol v-if="words.ladder.length > 0" class="ladder">
      <li v-for="(rung, k) in words.ladder" :key="k">
        <span class="what"><SentenceText :sentence="rung.label" /></span>
        <span class="when">{{ rung.at }}</span>
      </li>
    </ol>
    <ul v-if="next.length > 0" class="next">
      <li v-for="(runner, k) in next" :key="k">
        <span
          ><template v-if="k === 0">next in line: </template><SentenceText :sentence="runner.label"
        /></span>
        <span class="soft">{{ runner.behind }}</span>
      </li>
      <li v-if="words.nextInLine.length > SHOWN">
        <ActButton kind="bare" class="soft more" @click="all = !all">
          {{ all ? 'fewer' : `${words.nextInLine.length - SHOWN} more that bear on it` }}
        </ActButton>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.block {
  padding: 10px 0 12px;
  border-bottom: 1px solid var(--hairline);
}
.sentence {
  font-size: 13.5px;
}
.ladder {
  list-style: none;
  margin: 8px 0 8px 6px;
  padding: 0;
  border-left: 2px solid var(--ink);
}
.ladder li {
  position: relative;
  display: flex;
  justify-content: space-between;
  gap: 10px;
  padding: 3px 0 3px 12px;
  align-items: baseline;
}
.ladder li::before {
  content: '';
  position: absolute;
  left: 0;
  top: 12px;
  width: 8px;
  height: 2px;
  background: var(--ink);
}
.ladder li:last-child {
  font-weight: 650;
}
.what {
  min-width: 0;
}
.when {
  white-space: nowrap;
}
.next {
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
  font-size: 12.5px;
}
.next li {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  padding: 1px 0;
}
.more {
  border-bottom: 1px dotted var(--line);
  min-height: 24px;
}
</style>
