<script setup lang="ts">
import { sheetCsv, writeWorkbook } from '@geodrome/core'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { download } from '../saving/download.ts'
import { pngOf } from '../saving/pngOf.ts'
import { shownDrawing } from '../saving/shownDrawing.ts'
import type { TableRows } from '../saving/shownTable.ts'
import { usePlanStore } from '../stores/planStore.ts'
import { useUiStore } from '../stores/uiStore.ts'
import MenuButton from './MenuButton.vue'

/** Saves what stands here as a file: a table as CSV or XLSX, a drawing as SVG or PNG, both where both are given. */
const props = defineProps<{
  /** What it is called, on the file too. */
  name: string
  table?: () => TableRows
  /** What is drawn, where it stands; or the drawing as SVG. */
  drawing?: () => Element | string | null | Promise<string>
}>()
const plans = usePlanStore()
const ui = useUiStore()
const route = useRoute()
const problem = ref('')

const options = computed(() => [
  ...(props.drawing
    ? ([
        { key: 'svg', label: 'SVG, lines that stay sharp' },
        { key: 'png', label: 'PNG, a picture' },
      ] as const)
    : []),
  ...(props.table
    ? ([
        { key: 'csv', label: 'CSV, for any program' },
        { key: 'xlsx', label: 'XLSX, a workbook' },
      ] as const)
    : []),
])
/** A sheet's name has at most 31 letters, some of them not allowed. */
const sheetName = computed(() => props.name.replace(/[[\]:*?/\\]/g, ' ').slice(0, 31))
const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet'
const made = async (kind: 'svg' | 'png' | 'csv' | 'xlsx'): Promise<Blob> => {
  if (kind === 'csv' || kind === 'xlsx') {
    const sheet = { name: sheetName.value, ...props.table!() }
    return kind === 'csv'
      ? new Blob([sheetCsv(sheet)], { type: 'text/csv' })
      : new Blob([(await writeWorkbook([sheet])) as BlobPart], { type: XLSX })
  }
  const found = await props.drawing!()
  if (found === null) throw new Error('nothing is drawn yet')
  const svg = typeof found === 'string' ? found : shownDrawing(found, props.name, ui.tokens.paper)
  return kind === 'svg' ? new Blob([svg], { type: 'image/svg+xml' }) : pngOf(svg)
}
const save = async (kind: 'svg' | 'png' | 'csv' | 'xlsx'): Promise<void> => {
  problem.value = ''
  try {
    // Outside a plan's own pages the one that was open last has nothing to do with it.
    const code = route.params.id === undefined ? '' : plans.viewPlan?.project.code
    download(await made(kind), `${code ? `${code} ` : ''}${props.name}.${kind}`)
  } catch (error) {
    problem.value = `It could not be saved: ${(error as Error).message}.`
  }
}
</script>

<template>
  <span class="save-as" data-not-saved>
    <MenuButton :label="`Save “${name}” as`" :options="options" @choose="save">Save as</MenuButton>
    <span v-if="problem" class="brick" role="alert">{{ problem }}</span>
  </span>
</template>

<style scoped>
.save-as {
  font-size: 12px;
  color: var(--soft-ink);
}
</style>
