<script setup lang="ts">
import ActButton from '../controls/ActButton.vue'
import { usePlanStore } from '../stores/planStore.ts'
const plans = usePlanStore()
</script>

<template>
  <section class="conflicts" aria-label="Changes that were not stored" data-test="conflict">
    <article v-for="item in plans.setAside" :key="item.uid">
      <p><strong>Not stored:</strong> {{ item.reason }}.</p>
      <dl>
        <dt>Yours</dt>
        <dd>{{ item.label }}</dd>
        <template v-for="(their, k) in item.theirs" :key="k">
          <dt>{{ their.author }}</dt>
          <dd>{{ their.label }}</dd>
        </template>
      </dl>
      <ActButton @click="plans.resolveSetAside(item.uid, 'mine')">Use mine after all</ActButton>
      <ActButton @click="plans.resolveSetAside(item.uid, 'theirs')">Use what is stored</ActButton>
    </article>
  </section>
</template>

<style scoped>
.conflicts {
  background: var(--wash);
  border-bottom: 2px solid var(--brick);
  padding: 8px 18px;
  max-height: 180px;
  overflow: auto;
  flex: none;
}
article {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 18px;
  padding: 4px 0;
}
dl {
  display: flex;
  gap: 8px;
  margin: 0;
  flex-wrap: wrap;
}
dt {
  color: var(--soft-ink);
}
dd {
  margin: 0 12px 0 0;
  font-weight: 600;
}
</style>
