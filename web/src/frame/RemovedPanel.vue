<script setup lang="ts">
import { counted, mayDo, writePlan } from '@geodrome/core'
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '../api/client.ts'
import { download } from '../saving/download.ts'
import { useAttempt } from '../composables/useAttempt.ts'
import ActButton from '../controls/ActButton.vue'
import { usePlanStore } from '../stores/planStore.ts'

/** The plan in view was removed, here or by somebody else: nothing made here is lost, and it says where it can go. */
const plans = usePlanStore()
const router = useRouter()
const { problem, attemptLater } = useAttempt()
const waiting = computed(() => plans.pending.length + plans.setAside.length)
/** Who could not have removed it cannot bring it back. */
const mayRestore = computed(() => mayDo(plans.role, 'manage'))
const file = (): string => writePlan(plans.base!)

const bringBack = (): void =>
  attemptLater(async () => {
    const id = plans.planId!
    await api.restorePlan(id)
    plans.close()
    await plans.open(id)
  })
const saveFile = (): void =>
  download(file(), `${plans.base!.project.code || 'plan'}.geodrome.json`, 'application/json')
const makeNew = (): void =>
  attemptLater(async () => {
    const { id } = await api.importPlan(file())
    await router.push({ name: 'network', params: { id } })
  })
</script>

<template>
  <section class="removed" role="alert" data-test="removed">
    <p>
      {{
        mayRestore ? 'This plan was removed.' : 'This plan was removed, or you have no part in it any more.'
      }}
      <template v-if="waiting > 0">
        {{ counted(waiting, 'change') }} made here {{ waiting === 1 ? 'is' : 'are' }} not stored, and
        {{ waiting === 1 ? 'waits' : 'wait' }} in this browser.
      </template>
    </p>
    <span class="ways">
      <ActButton v-if="mayRestore" kind="primary" @click="bringBack">Bring it back</ActButton>
      <template v-if="plans.base">
        <ActButton @click="makeNew">Make a new plan of it</ActButton>
        <ActButton @click="saveFile">Save it as a file</ActButton>
      </template>
    </span>
    <p v-if="problem" class="brick">{{ problem }}</p>
  </section>
</template>

<style scoped>
.removed {
  padding: 10px 18px;
  background: var(--wash);
  border-bottom: 1.5px solid var(--brick);
}
.ways {
  display: flex;
  gap: 8px;
  margin-top: 6px;
}
</style>
