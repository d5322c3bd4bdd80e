<script setup lang="ts">
/** What is asked at the left, the answer, and what belongs beside it at the right; each scrolls by itself. */
defineProps<{ left?: number; right?: number }>()
</script>

<template>
  <div
    class="three-panes"
    :style="{ gridTemplateColumns: `${left ?? 216}px minmax(0, 1fr) ${right ?? 290}px` }"
  >
    <section class="pane asked scroll"><slot name="left" /></section>
    <slot name="whole"
      ><section class="middle scroll"><slot /></section
    ></slot>
    <aside class="pane beside scroll"><slot name="right" /></aside>
  </div>
</template>

<style scoped>
.three-panes {
  flex: 1;
  min-height: 0;
  display: grid;
}
.pane {
  background: var(--raised);
  padding: 14px;
  display: flex;
  flex-direction: column;
  gap: 10px;
}
.asked {
  border-right: 1px solid var(--hairline);
}
.beside {
  border-left: 1px solid var(--hairline);
}
.middle {
  padding: 16px 18px 24px;
  display: flex;
  flex-direction: column;
  gap: 6px;
}
</style>
