<script setup lang="ts">
import { onKeyStroke } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useAttempt } from '../../composables/useAttempt.ts'
import { useListStore } from './listStore.ts'
import { COLUMNS, columnOf, type CellContext } from './columns.ts'
import { FILTER_FIELDS, needsValue, type RowFilter } from './rowFilter.ts'
import type { Condition } from './rowView.ts'

const props = defineProps<{ context: CellContext; filter: RowFilter }>()
const list = useListStore()
const name = ref('')
onKeyStroke('Escape', () => (list.panelOpen = false))

const hidden = computed(() => COLUMNS.filter((c) => !list.view.columns.includes(c.id)))
const shift = (id: string, by: number): void => {
  const order = [...list.view.columns]
  const at = order.indexOf(id)
  const to = at + by
  if (to < 0 || to >= order.length) return
  order.splice(at, 1)
  order.splice(to, 0, id)
  list.set({ columns: order })
}
const dragged = ref<string | null>(null)
const dropOn = (id: string): void => {
  const from = dragged.value
  dragged.value = null
  if (from === null || from === id) return
  const order = list.view.columns.filter((c) => c !== from)
  order.splice(list.view.columns.indexOf(id), 0, from)
  list.set({ columns: order })
}
const tagNames = computed(() =>
  [...new Set(props.context.plan.activities.flatMap((a) => Object.keys(a.tags)))].sort(),
)
const groupings = computed(() => [
  ['', 'the outline'],
  ['none', 'nothing: one list'],
  ['owner', 'owner'],
  ['calendar', 'calendar'],
  ['kind', 'kind'],
  ...tagNames.value.map((tag) => [`tag:${tag}`, `tag ${tag}`]),
])
const setCondition = (at: number, fields: Partial<Condition>): void => {
  const next = { ...list.view.conditions[at]!, ...fields }
  const field = FILTER_FIELDS.find((f) => f.id === next.field)!
  if (!field.tests.includes(next.test)) next.test = field.tests[0]!
  list.set({ conditions: list.view.conditions.with(at, next) })
}
const addCondition = (): void =>
  list.set({ conditions: [...list.view.conditions, { field: 'state', test: 'critical', value: '' }] })
const { problem, attempt } = useAttempt()
const keep = (place: 'plan' | 'own'): void => {
  if (name.value.trim() === '' || !attempt(() => list.keep(name.value.trim(), place))) return
  name.value = ''
}
const place = computed(() => list.placeOf(list.view.name))
</script>

<template>
  <section class="panel scroll" aria-label="How the list is shown">
    <header>
      <h2>How the list is shown</h2>
      <button class="plain close" aria-label="Close" @click="list.panelOpen = false">×</button>
    </header>
    <h3>Views</h3>
    <p class="row">
      <button
        v-for="view in list.views"
        :key="view.name"
        class="chip"
        :aria-pressed="view.name === list.view.name"
        @click="list.use(view.name)"
      >
        {{ view.name }}<template v-if="list.placeOf(view.name) === 'plan'">, in the plan</template
        ><template v-if="view.name === list.view.name && list.isChanged">, changed</template>
      </button>
    </p>
    <form class="row" @submit.prevent="keep('plan')">
      <input v-model="name" aria-label="Name of the view" placeholder="Keep this view as …" maxlength="40" />
      <button
        class="chip"
        type="submit"
        :disabled="name.trim() === ''"
        title="All who open this plan find it; it goes along in the plan file"
      >
        Keep in the plan
      </button>
      <button
        class="chip"
        type="button"
        :disabled="name.trim() === ''"
        title="In this browser, for every plan"
        @click="keep('own')"
      >
        Keep for myself
      </button>
    </form>
    <p v-if="place" class="row">
      <button
        v-if="list.isChanged"
        class="plain act"
        @click="attempt(() => list.keep(list.view.name, place!))"
      >
        Keep the change of “{{ list.view.name }}”
      </button>
      <button class="plain act" @click="attempt(() => list.forget(list.view.name))">
        Forget “{{ list.view.name }}”{{ place === 'plan' ? ', for all' : '' }}
      </button>
    </p>
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>

    <h3>Columns, in this order</h3>
    <ul class="picked">
      <li
        v-for="id in list.view.columns"
        :key="id"
        draggable="true"
        @dragstart="dragged = id"
        @dragover.prevent
        @drop.prevent="dropOn(id)"
      >
        <span>{{ columnOf(id)?.title }}</span>
        <button
          class="plain small"
          :aria-label="`${columnOf(id)?.title}: further left`"
          @click="shift(id, -1)"
        >
          ↑
        </button>
        <button
          class="plain small"
          :aria-label="`${columnOf(id)?.title}: further right`"
          @click="shift(id, 1)"
        >
          ↓
        </button>
        <button
          class="plain small"
          :disabled="id === 'name' || id === 'code'"
          :aria-label="`Hide ${columnOf(id)?.title}`"
          @click="list.set({ columns: list.view.columns.filter((c) => c !== id) })"
        >
          ×
        </button>
      </li>
    </ul>
    <p class="row">
      <button
        v-for="column in hidden"
        :key="column.id"
        class="chip"
        :title="column.explains"
        @click="list.set({ columns: [...list.view.columns, column.id] })"
      >
        + {{ column.title }}
      </button>
    </p>

    <h3>Order of the rows</h3>
    <p v-if="list.view.sort.length === 0" class="soft">
      As in the plan. Click a column’s head to sort by it, with Shift for a further key.
    </p>
    <p v-else class="row">
      <button
        v-for="key in list.view.sort"
        :key="key.column"
        class="chip"
        @click="list.sortBy(key.column, true)"
      >
        {{ columnOf(key.column)?.title }} {{ key.descending ? '↓' : '↑' }}
      </button>
      <button class="plain act" @click="list.set({ sort: [], across: false })">As in the plan</button>
    </p>
    <label v-if="list.view.sort.length > 0" class="row"
      ><input
        type="checkbox"
        :checked="list.view.across"
        @change="list.set({ across: ($event.target as HTMLInputElement).checked })"
      />
      across the groups, without them</label
    >

    <h3>Grouped by</h3>
    <p class="row">
      <button
        v-for="[key, words] in groupings"
        :key="key"
        class="chip"
        :aria-pressed="list.view.groupBy === key"
        @click="list.set({ groupBy: key! })"
      >
        {{ words }}
      </button>
    </p>

    <h3>Only activities for which all of this holds</h3>
    <div v-for="(condition, k) in list.view.conditions" :key="k" class="condition">
      <select
        :value="condition.field"
        aria-label="Field"
        @change="setCondition(k, { field: ($event.target as HTMLSelectElement).value })"
      >
        <option v-for="field in FILTER_FIELDS" :key="field.id" :value="field.id">{{ field.title }}</option>
      </select>
      <select
        :value="condition.test"
        aria-label="Test"
        @change="setCondition(k, { test: ($event.target as HTMLSelectElement).value })"
      >
        <option v-for="test in FILTER_FIELDS.find((f) => f.id === condition.field)?.tests ?? []" :key="test">
          {{ test }}
        </option>
      </select>
      <input
        v-if="needsValue(condition)"
        :value="condition.value"
        aria-label="Value"
        placeholder="2d, 12 apr, a word"
        @input="setCondition(k, { value: ($event.target as HTMLInputElement).value })"
      />
      <span v-else />
      <button
        class="plain small"
        :aria-label="`Drop condition ${k + 1}`"
        @click="list.set({ conditions: list.view.conditions.toSpliced(k, 1) })"
      >
        ×
      </button>
      <small v-if="filter.problems.has(k)" class="brick">{{ filter.problems.get(k) }}</small>
    </div>
    <button class="plain act" @click="addCondition">Add a condition</button>
  </section>
</template>

<style scoped>
.panel {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 372px;
  padding: 14px 18px 20px;
  background: var(--raised);
  border-inline: 1.5px solid var(--ink);
  z-index: 8;
}
header {
  display: flex;
  justify-content: space-between;
  align-items: center;
}
.close {
  width: 28px;
  height: 28px;
  text-align: center;
  font-size: 18px;
}
h3 {
  margin: 16px 0 6px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
  margin-bottom: 6px;
}
.picked {
  list-style: none;
  margin: 0 0 8px;
  padding: 0;
  border-top: 1px solid var(--hairline);
}
.picked li {
  display: flex;
  align-items: center;
  border-bottom: 1px solid var(--hairline);
  cursor: grab;
}
.picked span {
  flex: 1;
}
.small {
  width: 26px;
  height: 26px;
  line-height: 26px;
  text-align: center;
  color: var(--soft-ink);
}
.small:disabled {
  opacity: 0.35;
  cursor: default;
}
.act {
  color: var(--fjord);
  font-weight: 600;
  min-height: 24px;
}
.condition {
  display: grid;
  grid-template-columns: 92px 108px 1fr 26px;
  gap: 4px;
  margin-bottom: 6px;
  align-items: center;
}
.condition small {
  grid-column: 1 / -1;
}
select,
input:not([type='checkbox']) {
  border: 1.5px solid var(--line);
  border-radius: 6px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
  padding: 3px 6px;
  height: 28px;
  min-width: 0;
}
input::placeholder {
  color: var(--soft-ink);
  opacity: 1;
}
</style>
