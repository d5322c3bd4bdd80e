<script setup lang="ts">
import { computed } from 'vue'
import { mayDo, ROLES } from '@geodrome/core'
import { usePlanStore } from '../stores/planStore.ts'

/** What who looks may do in the plan, where that is not everything. */
const plans = usePlanStore()
const limited = computed(() =>
  mayDo(plans.role, 'plan') || plans.status !== 'open' ? null : ROLES[plans.role],
)
</script>

<template>
  <p v-if="limited" class="role" role="status" data-test="role-line">
    <strong>You are {{ limited.words }} here:</strong> you may {{ limited.may }}.
    <RouterLink class="noun" :to="{ name: 'handover', params: { id: plans.planId!, part: 'people' } }"
      >Who else has a part in it</RouterLink
    >
  </p>
</template>

<style scoped>
.role {
  padding: 4px 18px;
  border-bottom: 1px solid var(--hairline);
  background: var(--wash);
  flex: none;
}
</style>
