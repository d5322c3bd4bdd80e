<script setup lang="ts">
import FilePick from '../../controls/FilePick.vue'
import AccountMenu from '../../controls/AccountMenu.vue'
import ActButton from '../../controls/ActButton.vue'
import { onMounted, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'
import type { PlanSummary } from '@geodrome/core'
import { api, ApiError } from '../../api/client.ts'
import { waitingByPlan } from '../../stores/outbox.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import PlanList from './PlanList.vue'

const router = useRouter()
const ui = useUiStore()
const plans = ref<readonly PlanSummary[] | null>(null)
const failure = ref('')
const issues = ref<ApiError['issues']>([])
const importing = ref('')
const removed = ref<PlanSummary | null>(null)
const isOver = ref(false)
/** Changes that wait in this browser, by plan: they are sent when it is opened. */
const waiting = shallowRef<ReadonlyMap<string, number>>(new Map())

const load = async (): Promise<void> => {
  try {
    plans.value = await api.plans()
    failure.value = ''
    waiting.value = await waitingByPlan()
  } catch (error) {
    failure.value = (error as Error).message
  }
}
onMounted(load)

const importFile = async (file: File | undefined): Promise<void> => {
  if (!file) return
  issues.value = []
  importing.value = file.name
  try {
    const { id } = await api.importPlan(await file.text())
    await router.push({ name: 'network', params: { id } })
  } catch (error) {
    failure.value = `${file.name} was not imported, nothing of it was kept`
    issues.value =
      error instanceof ApiError && error.issues.length > 0
        ? error.issues
        : [{ pointer: '', message: (error as Error).message }]
  } finally {
    importing.value = ''
  }
}
const drop = (event: DragEvent): void => {
  isOver.value = false
  void importFile(event.dataTransfer?.files[0])
}
const remove = async (plan: PlanSummary): Promise<void> => {
  await api.removePlan(plan.id)
  removed.value = plan
  await load()
}
/** The copy stands first in the list, as what was changed last. */
const copy = async ({ id, name, code }: PlanSummary): Promise<void> => {
  try {
    await api.copyPlan(id, `${name || code || 'Plan'}, copy`)
  } catch (error) {
    failure.value = `${name || code} was not copied: ${(error as Error).message}`
    return
  }
  await load()
}
const restore = async (): Promise<void> => {
  if (removed.value) await api.restorePlan(removed.value.id)
  removed.value = null
  await load()
}
const archive = async (plan: PlanSummary, archived: boolean): Promise<void> => {
  try {
    await api.archivePlan(plan.id, archived)
  } catch (error) {
    failure.value = `${plan.name || plan.code} was not ${archived ? 'put away' : 'taken out'}: ${(error as Error).message}`
    return
  }
  await load()
}
</script>

<template>
  <main
    class="home scroll"
    :class="{ over: isOver }"
    @dragover.prevent="isOver = true"
    @dragleave="isOver = false"
    @drop.prevent="drop"
  >
    <div class="column">
      <div class="top">
        <p class="mark">Geodrome</p>
        <AccountMenu />
      </div>
      <h1>When do we finish, how sure are we, and what would each alternative buy?</h1>
      <p class="soft lead">
        Open a network, see why it finishes when it does, check it, forecast it. Every date and every float
        explains itself.
      </p>

      <section v-if="removed" class="notice" role="status">
        {{ removed.name }} was removed. <ActButton kind="noun" @click="restore">Bring it back</ActButton>
      </section>
      <section v-if="issues.length > 0 || failure" class="notice bad" role="alert" data-test="import-errors">
        <strong>{{ failure }}</strong>
        <ol v-if="issues.length > 0">
          <li v-for="(issue, k) in issues.slice(0, 50)" :key="k">
            <code class="code">{{ issue.pointer || '/' }}</code> {{ issue.message }}
          </li>
        </ol>
        <p v-if="issues.length > 50">and {{ issues.length - 50 }} more.</p>
      </section>

      <PlanList
        v-if="plans"
        :plans="plans"
        :waiting="waiting"
        @remove="remove"
        @copy="copy"
        @archive="archive"
      />
      <p v-else-if="!failure" class="soft">Reading the plans …</p>

      <div class="actions">
        <RouterLink class="chip first" to="/new">New plan</RouterLink>
        <FilePick accept=".json,application/json" label="Plan file to import" @pick="importFile"
          ><ActButton>
            {{ importing ? `Reading ${importing} …` : 'Import a plan file' }}
          </ActButton></FilePick
        >
        <RouterLink class="chip" to="/list">Read somebody else’s list (CSV, XLSX)</RouterLink>
        <ActButton
          kind="bare"
          class="soft theme"
          @click="ui.theme = ui.theme === 'dusk' ? 'daylight' : 'dusk'"
        >
          {{ ui.theme === 'dusk' ? 'Daylight' : 'Dusk' }}
        </ActButton>
      </div>
    </div>
  </main>
</template>

<style scoped>
.home {
  height: 100%;
  padding: 48px 40px;
}
.home.over {
  box-shadow: inset 0 0 0 4px var(--signal);
}
.column {
  max-width: 1120px;
  margin: 0 auto;
  display: flex;
  flex-direction: column;
  gap: 18px;
}
.top {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
}
.mark {
  font:
    700 17px 'Bricolage Grotesque Variable',
    sans-serif;
}
h1 {
  font-size: 32px;
  max-width: 620px;
}
.lead {
  font-size: 15px;
  max-width: 560px;
}
.actions {
  display: flex;
  gap: 14px;
  align-items: center;
}
.first {
  background: var(--ink);
  color: var(--paper);
  border-color: var(--ink);
  font-weight: 600;
}
.theme {
  margin-left: auto;
  min-height: 24px;
}
.notice {
  background: var(--wash);
  border-left: 4px solid var(--signal);
  padding: 10px 14px;
  border-radius: 4px;
}
.notice.bad {
  border-color: var(--brick);
}
.notice ol {
  margin: 6px 0 0;
  padding-left: 20px;
  max-height: 220px;
  overflow: auto;
}
</style>
