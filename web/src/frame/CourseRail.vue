<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import AccountMenu from '../controls/AccountMenu.vue'
import { STAGES, type StageName } from './stages.ts'
import { useStageStates } from './stageStates.ts'

const route = useRoute()
const states = useStageStates()
const here = computed(() => route.name as StageName)
const says = (name: StageName): string => {
  const { done, open } = states.value[name]
  return open > 0 ? `${open} open` : done ? 'done' : 'not begun'
}
</script>

<template>
  <nav class="rail" aria-label="Stages in working order">
    <RouterLink to="/" class="mark" aria-label="Geodrome, all plans">Geo<br />drome</RouterLink>
    <ol>
      <li v-for="stage in STAGES" :key="stage.name">
        <RouterLink
          :to="{ name: stage.name, params: { id: route.params.id } }"
          :class="['stop', { here: here === stage.name, done: states[stage.name].done }]"
          :aria-current="here === stage.name ? 'page' : undefined"
          :aria-label="`${stage.label}, ${says(stage.name)}`"
          :title="stage.rule"
        >
          <svg class="box" viewBox="0 0 16 16" aria-hidden="true">
            <rect x="1.5" y="1.5" width="13" height="13" rx="3.5" />
            <path v-if="states[stage.name].done && here !== stage.name" d="M4.5 8.3 7 10.8 11.7 5.6" />
          </svg>
          <span
            >{{ stage.label
            }}<small v-if="states[stage.name].open > 0" class="signal"
              >{{ states[stage.name].open }} open</small
            ></span
          >
        </RouterLink>
      </li>
    </ol>
    <AccountMenu class="who" />
  </nav>
</template>

<style scoped>
.rail {
  padding: 14px 0 0 14px;
  display: flex;
  flex-direction: column;
  gap: 26px;
}
.mark {
  font:
    700 15px/1.05 'Bricolage Grotesque Variable',
    sans-serif;
  color: var(--ink);
  text-decoration: none;
  width: fit-content;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
  position: relative;
}
ol::before {
  content: '';
  position: absolute;
  left: 8px;
  top: 20px;
  bottom: 30px;
  width: 2px;
  background: var(--hairline);
}
li {
  position: relative;
  height: 52px;
}
.who {
  margin-top: auto;
  padding: 0 8px 8px 0;
}
.stop {
  display: grid;
  grid-template-columns: 18px 1fr;
  gap: 8px;
  align-items: start;
  min-height: 28px;
  padding-top: 4px;
  color: var(--soft-ink);
  text-decoration: none;
}
.stop span {
  display: flex;
  flex-direction: column;
  line-height: 1.25;
}
.stop small {
  font-size: 11px;
  font-weight: 600;
  white-space: nowrap;
}
.stop.here {
  color: var(--ink);
  font-weight: 650;
}
.box {
  width: 18px;
  height: 18px;
}
.box rect {
  fill: var(--paper);
  stroke: var(--soft-ink);
  stroke-width: 2;
}
.box path {
  fill: none;
  stroke: var(--paper);
  stroke-width: 2.2;
  stroke-linecap: round;
  stroke-linejoin: round;
}
.done .box rect {
  fill: var(--soft-ink);
}
.here .box rect {
  fill: var(--signal);
  stroke: var(--ink);
  stroke-width: 2.4;
}
</style>
