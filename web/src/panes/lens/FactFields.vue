<script setup lang="ts">
import { X } from '@lucide/vue'
import IconButton from '../../controls/IconButton.vue'
import ChoiceField from '../../controls/ChoiceField.vue'
import TextField from '../../controls/TextField.vue'
import TickBox from '../../controls/TickBox.vue'
import { computed, ref } from 'vue'
import { percentBySteps, readAmount, stepsOf, type Activity, type Item } from '@geodrome/core'
import { useAttempt } from '../../composables/useAttempt.ts'
import { useForesight } from '../../composables/useForesight.ts'
import { useLensStore } from '../../stores/lensStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { columnOf, type CellContext } from '../rows/columns.ts'

/** The facts of an activity, typed and read as in the list, and those that the list has no column for. */
const props = defineProps<{ activity: Activity; context: CellContext }>()
const plans = usePlanStore()
const lens = useLensStore()
const { problem, attempt } = useAttempt()
const index = computed(() => lens.byId.get(props.activity.id)!)
const set = (fields: Item): void =>
  void attempt(() => plans.edit({ kind: 'set', list: 'activities', key: props.activity.id, set: fields }))

const FIELDS = [
  'duration',
  'kind',
  'calendar',
  'resources',
  'owner',
  'promise',
  'tags',
  'estimate',
  'notes',
] as const
const fields = computed(() =>
  FIELDS.map((id) => columnOf(id)!).filter(
    (c) => props.activity.kind === 'work' || !['duration', 'estimate', 'promise'].includes(c.id),
  ),
)
const typed = ref<Record<string, string>>({})
const textOf = (id: string): string => typed.value[id] ?? columnOf(id)!.draft!(props.context, index.value)
const read = (id: string) => columnOf(id)!.read!(props.context, index.value, textOf(id))
/** The field that was typed in last, and what keeping it would do. */
const typing = ref('')
const type = (id: string, text: string): void => {
  typed.value[id] = text
  typing.value = id
}
const drop = (id: string): void => void delete typed.value[id]
const foreseen = useForesight(() => {
  const meant = typed.value[typing.value] === undefined ? null : read(typing.value)
  return meant?.ok ? meant.change : null
})
const keep = (id: string): void => {
  if (typed.value[id] === undefined) return
  const meant = read(id)
  if (!meant.ok) return
  delete typed.value[id]
  if (meant.change) attempt(() => plans.edit(meant.change!))
}

const DIRECTIONS = [
  { value: 'in', label: 'comes in' },
  { value: 'out', label: 'goes out' },
] as const
const checklist = computed(() => stepsOf(props.activity))
const line = ref('')
const addLine = (): void => {
  if (line.value.trim() === '') return
  set({ checklist: [...checklist.value, { text: line.value.trim(), done: false, weight: 1 }] })
  line.value = ''
}
const setWeight = (k: number, typed: string): void => {
  const weight = typed.trim() === '' ? 1 : readAmount(typed)
  if (weight === null || weight < 0)
    return void (problem.value = `“${typed.trim()}” is not a weight: a step counts 0 or more beside the others`)
  set({ checklist: checklist.value.with(k, { ...checklist.value[k]!, weight }) })
}
const bySteps = computed(() => percentBySteps(checklist.value))
const payment = computed(() => props.activity.payment)
const decision = computed(() => props.activity.decision as { by?: string; question?: string } | null)
const setAmount = (typed: string): void => {
  const amount = readAmount(typed)
  if (amount === null || amount < 0)
    return void (problem.value = `“${typed.trim()}” is not an amount of 0 or more; money that goes out is said beside it`)
  set({ payment: { ...payment.value, amount } })
}
const setCost = (part: 'fixed' | 'perDay', typed: string): void => {
  const amount = typed.trim() === '' ? 0 : readAmount(typed)
  if (amount === null) return void (problem.value = `“${typed.trim()}” is not an amount`)
  if (amount !== props.activity.cost[part]) set({ cost: { ...props.activity.cost, [part]: amount } })
}
/** What was agreed of it, and what is other now; empty without a baseline that knows it. */
const agreed = computed(() => {
  const words = (id: string): string => columnOf(id)!.text(props.context, index.value)
  const finish = words('agreed-finish')
  if (finish === '') return ''
  const by = (['finish-variance', 'duration-variance', 'float-variance'] as const)
    .map((id) => [
      { 'finish-variance': 'finish', 'duration-variance': 'duration', 'float-variance': 'float' }[id],
      words(id),
    ])
    .filter(([, text]) => text !== '' && text !== '0')
    .map(([what, text]) => `${what} ${text}`)
  return `${finish}${by.length === 0 ? ', as it is' : `; ${by.join(', ')}`}`
})
</script>

<template>
  <section class="facts" data-test="facts">
    <p v-if="agreed" class="agreed" data-test="agreed"><span>Agreed</span> {{ agreed }}</p>
    <label v-for="column in fields" :key="column.id" :title="column.explains">
      <span>{{ column.title }}</span>
      <TextField
        :model-value="textOf(column.id)"
        :list="column.offers ? `offers-${column.id}` : undefined"
        :invalid="!read(column.id).ok"
        :placeholder="column.id === 'calendar' ? 'the project’s' : ''"
        @update:model-value="type(column.id, $event)"
        @keydown.enter="keep(column.id)"
        @keydown.esc.stop="drop(column.id)"
        @blur="keep(column.id)"
      />
      <datalist v-if="column.offers" :id="`offers-${column.id}`">
        <option v-for="offer in column.offers(context)" :key="offer" :value="offer" />
      </datalist>
      <small v-if="typed[column.id] !== undefined" :class="{ brick: !read(column.id).ok }"
        >{{
          read(column.id).ok
            ? (read(column.id) as { words: string }).words
            : (read(column.id) as { why: string }).why
        }}<template v-if="foreseen && typing === column.id">: {{ foreseen }}</template></small
      >
    </label>
    <label title="What it costs however long it takes, beside its resources"
      ><span>Fixed cost</span
      ><TextField
        :kept="activity.cost.fixed || ''"
        placeholder="0"
        inputmode="decimal"
        @keep="setCost('fixed', $event)"
    /></label>
    <label title="What every working day of it costs, on its own calendar, however many there are"
      ><span>Cost per day</span
      ><TextField
        :kept="activity.cost.perDay || ''"
        placeholder="0"
        inputmode="decimal"
        data-test="per-day"
        @keep="setCost('perDay', $event)"
    /></label>
    <TickBox
      v-if="activity.kind === 'work'"
      :model-value="activity.split === true"
      class="check"
      title="While resources are levelled it may stop where one is taken, and go on when it is free"
      @update:model-value="set({ split: $event })"
    >
      may pause for a resource</TickBox
    >
    <TickBox
      :model-value="activity.place === 'late'"
      @update:model-value="set({ place: $event ? 'late' : 'early' })"
      class="check"
      title="Placed at the latest dates that move nothing else; its float is said as it was before"
    >
      as late as its free float allows</TickBox
    >
    <template v-if="activity.kind === 'milestone'">
      <TickBox
        :model-value="payment !== null"
        @update:model-value="set({ payment: $event ? { amount: 0 } : null })"
        class="check"
        title="Work can wait for the money: link to this milestone"
      >
        a payment is due with it</TickBox
      >
      <div v-if="payment" class="direction">
        <span>Money</span
        ><ChoiceField
          label="Which way the money goes"
          :model-value="payment.direction ?? 'in'"
          :options="DIRECTIONS"
          @update:model-value="set({ payment: { ...payment, direction: $event } })"
        />
      </div>
      <label v-if="payment"
        ><span>Amount, {{ context.plan.project.currency }}</span
        ><TextField :kept="payment.amount ?? 0" inputmode="decimal" @keep="setAmount"
      /></label>
      <TickBox
        :model-value="decision !== null"
        @update:model-value="set({ decision: $event ? { by: '' } : null })"
        class="check"
        title="Work can wait for the choice of the owner or an authority: link to this milestone"
      >
        somebody outside decides it</TickBox
      >
      <label v-if="decision"
        ><span>Who decides</span
        ><TextField :kept="decision.by ?? ''" @keep="set({ decision: { ...decision, by: $event.trim() } })"
      /></label>
    </template>
    <div class="checklist">
      <span title="Steps inside the activity; they have no dates of their own">Checklist</span>
      <ul>
        <li v-for="(item, k) in checklist" :key="k">
          <TickBox
            :model-value="item.done"
            @update:model-value="
              set({
                checklist: checklist.with(k, {
                  ...item,
                  done: $event,
                }),
              })
            "
            class="check"
          >
            {{ item.text }}</TickBox
          >
          <TextField
            class="weight"
            :label="`How much ${item.text} counts`"
            title="How much it counts beside the others, where an update says by its steps how much is done"
            :kept="String(item.weight)"
            @keep="setWeight(k, $event)"
          />
          <IconButton
            :icon="X"
            class="x"
            :label="`Remove ${item.text}`"
            @click="set({ checklist: checklist.toSpliced(k, 1) })"
          />
        </li>
        <li>
          <TextField
            v-model="line"
            label="New line of the checklist"
            placeholder="add a line"
            @keydown.enter="addLine"
            @blur="addLine"
          />
        </li>
      </ul>
      <p v-if="checklist.length > 0 && bySteps !== null" class="soft by-steps">
        {{ bySteps }} % by its steps
      </p>
    </div>
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
  </section>
</template>

<style scoped>
.facts {
  padding: 10px 0;
  border-bottom: 1px solid var(--hairline);
  display: flex;
  flex-direction: column;
  gap: 5px;
}
label:not(.check),
.direction,
.checklist {
  display: grid;
  grid-template-columns: 92px 1fr;
  gap: 2px 8px;
  align-items: center;
}
label > span,
.direction > span,
.checklist > span {
  font-size: 12.5px;
  color: var(--soft-ink);
}
label small {
  grid-column: 2;
  font-size: 12px;
  color: var(--soft-ink);
}
label small.brick {
  color: var(--brick);
}
.check {
  display: flex;
  gap: 7px;
  align-items: center;
  min-height: 24px;
}
.checklist {
  grid-template-columns: minmax(0, 1fr);
  align-items: start;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 4px;
}
li > .check {
  flex: 1;
}
.weight {
  width: 44px;
}
.by-steps {
  margin: 0;
  font-size: 12px;
}
.x {
  width: 24px;
  height: 24px;
  line-height: 22px;
  text-align: center;
  color: var(--soft-ink);
}
.agreed {
  margin: 0;
  font-size: 13px;
}
.agreed span {
  color: var(--soft-ink);
  margin-right: 8px;
}
</style>
