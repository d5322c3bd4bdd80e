<script setup lang="ts">
import { type Choice } from '../../controls/options.ts'
import ChoiceField from '../../controls/ChoiceField.vue'
import { ArrowDown, ArrowUp, X } from '@lucide/vue'
import ActButton from '../../controls/ActButton.vue'
import IconButton from '../../controls/IconButton.vue'
import TextField from '../../controls/TextField.vue'
import TickBox from '../../controls/TickBox.vue'
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
const fieldOptions = FILTER_FIELDS.map((field) => ({ value: field.id, label: field.title }))
const testsOf = (id: string): Choice[] =>
  (FILTER_FIELDS.find((field) => field.id === id)?.tests ?? []).map((test) => ({ value: test, label: test }))
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
      <IconButton :icon="X" class="close" label="Close" @click="list.panelOpen = false" />
    </header>
    <h3>Views</h3>
    <p class="row">
      <ActButton
        v-for="view in list.views"
        :key="view.name"
        :aria-pressed="view.name === list.view.name"
        @click="list.use(view.name)"
      >
        {{ view.name }}<template v-if="list.placeOf(view.name) === 'plan'">, in the plan</template
        ><template v-if="view.name === list.view.name && list.isChanged">, changed</template>
      </ActButton>
    </p>
    <form class="row" @submit.prevent="keep('plan')">
      <TextField v-model="name" label="Name of the view" placeholder="Save this view as …" maxlength="40" />
      <ActButton
        type="submit"
        :disabled="name.trim() === ''"
        title="All who open this plan find it; it goes along in the plan file"
      >
        Save in the plan
      </ActButton>
      <ActButton
        type="button"
        :disabled="name.trim() === ''"
        title="In this browser, for every plan"
        @click="keep('own')"
      >
        Save for myself
      </ActButton>
    </form>
    <p v-if="place" class="row">
      <ActButton
        kind="bare"
        v-if="list.isChanged"
        class="act"
        @click="attempt(() => list.keep(list.view.name, place!))"
      >
        Save the change of “{{ list.view.name }}”
      </ActButton>
      <ActButton kind="bare" class="act" @click="attempt(() => list.forget(list.view.name))">
        Forget “{{ list.view.name }}”{{ place === 'plan' ? ', for all' : '' }}
      </ActButton>
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
        <IconButton
          :icon="ArrowUp"
          class="small"
          :label="`${columnOf(id)?.title}: further left`"
          @click="shift(id, -1)"
        />
        <IconButton
          :icon="ArrowDown"
          class="small"
          :label="`${columnOf(id)?.title}: further right`"
          @click="shift(id, 1)"
        />
        <IconButton
          :icon="X"
          class="small"
          :disabled="id === 'name' || id === 'code'"
          :label="`Hide ${columnOf(id)?.title}`"
          @click="list.set({ columns: list.view.columns.filter((c) => c !== id) })"
        />
      </li>
    </ul>
    <p class="row">
      <ActButton
        v-for="column in hidden"
        :key="column.id"
        :title="column.explains"
        @click="list.set({ columns: [...list.view.columns, column.id] })"
      >
        + {{ column.title }}
      </ActButton>
    </p>

    <h3>Order of the rows</h3>
    <p v-if="list.view.sort.length === 0" class="soft">
      As in the plan. Click a column’s head to sort by it, with Shift for a further key.
    </p>
    <p v-else class="row">
      <ActButton v-for="key in list.view.sort" :key="key.column" @click="list.sortBy(key.column, true)">
        {{ columnOf(key.column)?.title }} {{ key.descending ? '↓' : '↑' }}
      </ActButton>
      <ActButton kind="bare" class="act" @click="list.set({ sort: [], across: false })"
        >As in the plan</ActButton
      >
    </p>
    <TickBox
      :model-value="list.view.across"
      @update:model-value="list.set({ across: $event })"
      v-if="list.view.sort.length > 0"
      class="row"
    >
      across the groups, without them</TickBox
    >

    <h3>Grouped by</h3>
    <p class="row">
      <ActButton
        v-for="[key, words] in groupings"
        :key="key"
        :aria-pressed="list.view.groupBy === key"
        @click="list.set({ groupBy: key! })"
      >
        {{ words }}
      </ActButton>
    </p>

    <h3>Only activities for which all of this holds</h3>
    <div v-for="(condition, k) in list.view.conditions" :key="k" class="condition">
      <ChoiceField
        label="Field"
        :model-value="condition.field"
        :options="fieldOptions"
        @update:model-value="setCondition(k, { field: $event })"
      />
      <ChoiceField
        label="Test"
        :model-value="condition.test"
        :options="testsOf(condition.field)"
        @update:model-value="setCondition(k, { test: $event })"
      />
      <TextField
        v-if="needsValue(condition)"
        :model-value="condition.value"
        label="Value"
        placeholder="2d, 12 apr, a word"
        @update:model-value="setCondition(k, { value: $event })"
      />
      <span v-else />
      <IconButton
        :icon="X"
        class="small"
        :label="`Drop condition ${k + 1}`"
        @click="list.set({ conditions: list.view.conditions.toSpliced(k, 1) })"
      />
      <small v-if="filter.problems.has(k)" class="brick">{{ filter.problems.get(k) }}</small>
    </div>
    <ActButton kind="bare" class="act" @click="addCondition">Add a condition</ActButton>
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
</style>
