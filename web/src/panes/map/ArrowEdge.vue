<script setup lang="ts">
/** An arrow: its way is laid out already, its words stand on the level stretch that is theirs. */
defineProps<{
  data: {
    kind: 'work' | 'dummy' | 'wait'
    path: string
    at: readonly [number, number] | null
    code: string
    name: string
    below: string
    strong: boolean
    faded: boolean
    chosen: boolean
  }
}>()
</script>

<template>
  <g class="arrow" :class="[data.kind, { strong: data.strong, faded: data.faded, chosen: data.chosen }]">
    <path class="vue-flow__edge-path line" :d="data.path" marker-end="url(#arrow-head)" />
    <path v-if="data.kind === 'work'" class="hit" :d="data.path" />
    <template v-if="data.at">
      <text :x="data.at[0]" :y="data.at[1] - 7"
        ><tspan class="code">{{ data.code }}</tspan> <tspan class="name">{{ data.name }}</tspan></text
      >
      <text class="below" :x="data.at[0]" :y="data.at[1] + 15">{{ data.below }}</text>
    </template>
  </g>
</template>

<style scoped>
.line {
  fill: none;
  stroke: var(--line);
  stroke-width: 1.4;
}
.strong .line {
  stroke: var(--ink);
  stroke-width: 2.6;
}
.dummy .line {
  stroke-dasharray: 6 4;
}
.wait .line {
  stroke-dasharray: 1.5 4;
  stroke-linecap: round;
  stroke-width: 2;
  stroke: var(--fjord);
}
.chosen .line {
  stroke: var(--signal-text);
  stroke-width: 3;
}
.hit {
  fill: none;
  stroke: transparent;
  stroke-width: 24;
  cursor: pointer;
}
/* Stands back without its words fading. */
.faded .line {
  opacity: 0.35;
}
text {
  font-size: 11.5px;
  fill: var(--ink);
  text-anchor: middle;
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 3px;
  pointer-events: none;
}
.faded text {
  fill: var(--soft-ink);
}
.chosen text {
  font-weight: 650;
}
.below {
  fill: var(--soft-ink);
}
.far .name,
.far .below {
  display: none;
}
.far text,
.far .code {
  font-size: var(--word);
}
</style>
