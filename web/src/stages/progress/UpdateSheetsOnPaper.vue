<script setup lang="ts">
import { dateWords, instantWords, type RecordSheet } from '@geodrome/core'
import { usePlanStore } from '../../stores/planStore.ts'

/** What an update asks, by owner, a page each: to be filled in by hand where there is no screen. Seen on paper only. */
defineProps<{ sheets: readonly RecordSheet[]; status: number }>()
const plans = usePlanStore()
/** The columns that are filled in by hand need room. */
const BY_HAND = new Set(['started', 'finished', 'left or %', 'promised finish', 'remark'])
const isPlanned = (head: string): boolean => head.startsWith('planned')
const cell = (head: string, value: string | number): string =>
  isPlanned(head)
    ? dateWords(String(value).replace(' ', 'T'), head === 'planned start' ? 'start' : 'finish')
    : String(value)
</script>

<template>
  <div class="paper" data-test="update-paper">
    <section v-for="sheet in sheets" :key="sheet.name">
      <header>
        <h1>{{ sheet.name }}</h1>
        <p>
          {{ plans.viewPlan!.project.name || plans.viewPlan!.project.code }}: what is asked for
          {{ instantWords(status, 'start', { year: true }) }}
        </p>
      </header>
      <table>
        <thead>
          <tr>
            <th v-for="head in sheet.head" :key="head" :class="{ hand: BY_HAND.has(head) }">{{ head }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, k) in sheet.rows" :key="k">
            <td v-for="(value, c) in row" :key="c" :class="{ hand: BY_HAND.has(sheet.head[c]!) }">
              {{ cell(sheet.head[c]!, value) }}
            </td>
          </tr>
        </tbody>
      </table>
      <p class="how">
        Dates as 17 May or 17 May 14:00, “as planned” or “not yet”; what is left as 3 d, 60 % or 12 of 30.
        Filled in by ____________________ on ______________
      </p>
    </section>
  </div>
</template>

<style scoped>
.paper {
  display: none;
}
@media print {
  .paper {
    display: block;
    color: #000;
    font-size: 9.5pt;
  }
  section {
    break-after: page;
  }
  section:last-child {
    break-after: auto;
  }
  header {
    display: flex;
    justify-content: space-between;
    align-items: baseline;
  }
  table {
    width: 100%;
    border-collapse: collapse;
  }
  thead {
    display: table-header-group;
  }
  tr {
    break-inside: avoid;
  }
  th,
  td {
    border: 0.4pt solid #777;
    padding: 2mm 1.5mm;
    text-align: left;
    vertical-align: top;
  }
  .hand {
    min-width: 19mm;
  }
  .how {
    margin-top: 4mm;
  }
}
</style>
