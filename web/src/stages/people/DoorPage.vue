<script setup lang="ts">
/** The page on which somebody comes in: signs in, or chooses a password. */
defineProps<{ title: string }>()
defineEmits<{ go: [] }>()
</script>

<template>
  <main class="door scroll">
    <form class="column" @submit.prevent="$emit('go')">
      <p class="mark">Geodrome</p>
      <h1>{{ title }}</h1>
      <slot />
    </form>
  </main>
</template>

<style scoped>
.door {
  height: 100%;
  padding: 48px 40px;
}
.column {
  max-width: 1120px;
  margin: 0 auto;
  display: flex;
  flex-direction: column;
  gap: 18px;
}
.column > :deep(:not(h1)) {
  max-width: 400px;
}
.mark {
  font:
    700 17px 'Bricolage Grotesque Variable',
    sans-serif;
}
h1 {
  font-size: 32px;
}
.column :deep(label) {
  display: flex;
  flex-direction: column;
  gap: 3px;
  font-weight: 600;
}
.column :deep(label small) {
  font-weight: 400;
  color: var(--soft-ink);
}
</style>
