<script setup lang="ts">
import { computed, ref } from 'vue'
import { dateWords, instantOf, readDate, type Item } from '@geodrome/core'
import { useAttempt } from '../../composables/useAttempt.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { authorName } from '../../stores/identity.ts'

const plans = usePlanStore()
const project = computed(() => plans.plan!.project)
const { problem, attempt } = useAttempt()
const typed = ref<Record<string, string>>({})

const set = (fields: Item): void => void attempt(() => plans.edit({ kind: 'project', set: fields }))
type DateField = 'start' | 'requiredFinish' | 'statusDate'
const edgeOf = (field: DateField): 'start' | 'finish' => (field === 'requiredFinish' ? 'finish' : 'start')
const shown = (field: DateField): string => {
  const date = project.value[field]
  return date === null ? '' : dateWords(date, edgeOf(field), { year: true })
}
const understood = (field: DateField) => {
  const text = typed.value[field]
  if (text === undefined || text.trim() === '') return null
  return readDate(text, instantOf(project.value[field] ?? project.value.start, 'start'))
}
const keepDate = (field: DateField): void => {
  const text = typed.value[field]
  if (text === undefined) return
  const read = understood(field)
  if (read === null && field !== 'start' && project.value[field] !== null) set({ [field]: null })
  if (read?.ok && read.date !== project.value[field]) set({ [field]: read.date })
  if (read === null || read.ok) delete typed.value[field]
}
const keepText = (field: 'name' | 'code', event: Event): void => {
  const value = (event.target as HTMLInputElement).value.trim()
  if (value !== project.value[field]) set({ [field]: value })
}
const ends = (list: 'opens' | 'closes'): string =>
  project.value[list].map((id) => { const a = plans.activity(id); return a ? `${a.code} ${a.name}` : id }).join(', ') || 'none declared'
const DATES: readonly (readonly [DateField, string, string])[] = [
  ['start', 'Start', 'Nothing begins before this instant.'],
  ['requiredFinish', 'Required finish', 'What float is measured against. A date without a time means the end of that day.'],
  ['statusDate', 'Status date', 'Unfinished work lies after it.'],
]
</script>

<template>
  <div class="setup scroll">
    <div class="column">
      <h1>What must be finished, and by when?</h1>
      <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
      <label>Name<input :value="project.name" @change="keepText('name', $event)" /></label>
      <label class="short">Code<input :value="project.code" @change="keepText('code', $event)" /></label>
      <label v-for="[field, title, why] in DATES" :key="field">
        {{ title }}
        <input
          :value="typed[field] ?? shown(field)"
          :aria-invalid="understood(field)?.ok === false"
          placeholder="none; write for example 18 jun 2027, or 18 jun 15:00"
          @input="typed[field] = ($event.target as HTMLInputElement).value"
          @keydown.enter="keepDate(field)"
          @blur="keepDate(field)"
        />
        <small :class="{ brick: understood(field)?.ok === false }">
          {{ understood(field) === null ? why : understood(field)!.ok ? dateWords((understood(field) as { date: string }).date, edgeOf(field), { year: true }) : (understood(field) as { why: string }).why }}
        </small>
      </label>
      <dl>
        <dt>Direction</dt>
        <dd>{{ project.direction === 'forward' ? 'Scheduled forward from the start: everything as early as its logic allows.' : 'Scheduled backward from the finish: everything is placed as late as possible.' }}</dd>
        <dt>The network starts with</dt>
        <dd>{{ ends('opens') }}</dd>
        <dt>and finishes with</dt>
        <dd>{{ ends('closes') }}. Every other open end is a finding in Review.</dd>
      </dl>
      <label class="short">Your name, signed under your changes<input v-model="authorName" maxlength="100" /></label>
    </div>
  </div>
</template>

<style scoped>
.setup { flex: 1; padding: 28px 32px; }
.column { max-width: 620px; display: flex; flex-direction: column; gap: 16px; }
label { display: flex; flex-direction: column; gap: 3px; font-weight: 600; }
label small { font-weight: 400; color: var(--soft-ink); }
label small.brick { color: var(--brick); }
.short { max-width: 260px; }
input { border: 1.5px solid var(--line); border-radius: 7px; background: var(--raised); color: var(--ink); font: inherit; font-weight: 400; padding: 6px 10px; }
input::placeholder { color: var(--soft-ink); opacity: 1; }
input[aria-invalid='true'] { border-color: var(--brick); }
dl { display: grid; grid-template-columns: 170px 1fr; gap: 8px 14px; margin: 4px 0; }
dt { color: var(--soft-ink); }
dd { margin: 0; }
</style>
