<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { counted, durationWords, instantWords, NONE } from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import FieldRow from '../../controls/FieldRow.vue'
import TextField from '../../controls/TextField.vue'
import { useAttempt } from '../../composables/useAttempt.ts'
import { useForesight } from '../../composables/useForesight.ts'
import { useLensStore } from '../../stores/lensStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import { columnOf, type CellContext } from '../rows/columns.ts'
import { tightestOf } from '../rows/floatDays.ts'
import { readForAll } from '../rows/forAll.ts'
import ActivityLine from './ActivityLine.vue'
import SelectionActs from './SelectionActs.vue'

/** Several activities selected: what they come to together, what can be done with them, and the facts they share, each edited for all in one step. */
const props = defineProps<{ context: CellContext }>()
const plans = usePlanStore()
const lens = useLensStore()
const ui = useUiStore()
const { problem, attempt } = useAttempt()

const at = computed(() => ui.selection.flatMap((id) => lens.byId.get(id) ?? []))
const activities = computed(() => at.value.map((i) => props.context.plan.activities[i]!))
const calendars = computed(() => props.context.calendars)
const work = computed(() => activities.value.reduce((sum, { duration }) => sum + duration, 0))
const span = computed(() => {
  const { start, finish } = props.context.view
  const [first, last] = [
    Math.min(...at.value.map((i) => start[i]!)),
    Math.max(...at.value.map((i) => finish[i]!)),
  ]
  return `${instantWords(first, 'start')} → ${instantWords(last, 'finish')}`
})
const named = (i: number): string =>
  `${props.context.plan.activities[i]!.code} ${props.context.plan.activities[i]!.name}`
const show = (i: number): void => ui.select(props.context.plan.activities[i]!.id, { show: true })
const tightest = computed(() => {
  const i = tightestOf(props.context, at.value)
  if (i < 0 || props.context.view.totalFloat[i] === NONE) return null
  const float = durationWords(
    props.context.view.totalFloat[i]!,
    calendars.value.lengthsOf(props.context.plan.activities[i]!),
  )
  return { i, float }
})
const onPath = computed(() => at.value.filter((i) => props.context.view.onLongestPath[i] === 1).length)

const acts = computed(() => [
  'link-FS',
  'link-SS',
  'unlink',
  ...(at.value.length === 2 ? ['hang'] : []),
  'group',
  'recode',
  'remove',
])

/** Facts that several can share. Tags that are typed are added to those that each has. */
const SHARED = ['duration', 'kind', 'calendar', 'owner', 'resources', 'estimate', 'tags', 'notes'] as const
const fields = computed(() =>
  SHARED.map((id) => columnOf(id)!).filter(
    ({ id }) =>
      !['duration', 'estimate'].includes(id) || activities.value.every(({ kind }) => kind === 'work'),
  ),
)
/** So many are named. */
const LISTED = 40
const draftOf = (id: string, i: number): string => columnOf(id)!.draft!(props.context, i)
/** What all of them say; null where they differ. */
const sharedText = (id: string): string | null => {
  const [first, ...rest] = at.value
  const text = draftOf(id, first!)
  return rest.every((i) => draftOf(id, i) === text) ? text : null
}
const typed = ref<Record<string, string>>({})
const typing = ref('')
watch(
  () => ui.selection,
  () => (typed.value = {}),
)
const type = (id: string, text: string): void => {
  typed.value[id] = text
  typing.value = id
}
const drop = (id: string): void => void delete typed.value[id]
const read = (id: string) =>
  readForAll(props.context, columnOf(id)!, ui.selection, (i) =>
    id === 'tags' && typed.value[id] !== '' ? `${draftOf(id, i)}; ${typed.value[id]}` : typed.value[id]!,
  )
const foreseen = useForesight(() => {
  if (typed.value[typing.value] === undefined) return null
  const meant = read(typing.value)
  return meant.ok && meant.change.changes.length > 0 ? meant.change : null
})
const said = (id: string): string => {
  const meant = read(id)
  if (!meant.ok) return meant.why
  const { length } = meant.change.changes
  return length === 0 ? 'as they are' : `changes ${length} of ${at.value.length}`
}
const keep = (id: string): void => {
  if (typed.value[id] === undefined) return
  const meant = read(id)
  if (!meant.ok) return
  drop(id)
  if (meant.change.changes.length > 0) attempt(() => plans.edit(meant.change))
}
const unconfirmed = computed(() => activities.value.filter((a) => a.kind === 'work' && !a.confirmed))
const confirm = (): void =>
  void attempt(() =>
    plans.edit({
      kind: 'all',
      changes: unconfirmed.value.map(({ id }) => ({
        kind: 'set',
        list: 'activities',
        key: id,
        set: { confirmed: true },
      })),
    }),
  )
</script>

<template>
  <div data-test="selection">
    <p class="where">{{ durationWords(work, calendars.projectLengths) }} of work in all</p>
    <h2 class="title">{{ counted(at.length, 'activity') }} selected</h2>
    <p class="soft">{{ span }}</p>
    <p v-if="tightest" class="tightest">
      The tightest is <ActButton kind="noun" @click="show(tightest.i)">{{ named(tightest.i) }}</ActButton>:
      <strong>{{ tightest.float }}</strong> of float.
      {{ onPath === 0 ? 'None of them is' : `${onPath} of them ${onPath === 1 ? 'is' : 'are'}` }} on the
      longest path.
    </p>
    <SelectionActs :ids="acts" :if-open="['headings']" />
    <h3>For all of them</h3>
    <div class="facts">
      <FieldRow
        v-for="column in fields"
        :key="column.id"
        :label="column.id === 'tags' ? 'Add tags' : column.title"
        :title="column.explains"
        :problem="typed[column.id] !== undefined && !read(column.id).ok ? said(column.id) : ''"
      >
        <TextField
          :model-value="typed[column.id] ?? (column.id === 'tags' ? '' : (sharedText(column.id) ?? ''))"
          :list="column.offers ? `all-${column.id}` : undefined"
          :invalid="typed[column.id] !== undefined && !read(column.id).ok"
          :placeholder="
            sharedText(column.id) === null
              ? 'they differ'
              : column.id === 'calendar'
                ? 'the project’s'
                : column.id === 'tags'
                  ? sharedText('tags')!
                  : ''
          "
          @update:model-value="type(column.id, $event)"
          @keydown.enter="keep(column.id)"
          @keydown.esc.stop="drop(column.id)"
          @blur="keep(column.id)"
        />
        <datalist v-if="column.offers" :id="`all-${column.id}`">
          <option v-for="offer in column.offers(context)" :key="offer" :value="offer" />
        </datalist>
        <template v-if="typed[column.id] !== undefined && read(column.id).ok" #note
          >{{ said(column.id)
          }}<template v-if="foreseen && typing === column.id">: {{ foreseen }}</template></template
        >
      </FieldRow>
      <p v-if="unconfirmed.length > 0">
        <ActButton kind="noun" @click="confirm"
          >Confirm {{ counted(unconfirmed.length, 'duration') }}</ActButton
        >
      </p>
      <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
    </div>
    <ActivityLine v-for="i in at.slice(0, LISTED)" :key="i" :drawn="context" :index="i" />
    <p v-if="at.length > LISTED" class="soft">and {{ at.length - LISTED }} more</p>
  </div>
</template>

<style scoped>
.where {
  font-size: 12.5px;
  color: var(--soft-ink);
}
.title {
  margin: 6px 0 2px;
}

.tightest {
  margin: 8px 0;
}
h3 {
  margin: 14px 0 4px;
}
.facts {
  display: flex;
  flex-direction: column;
  gap: 5px;
  --field-label: 92px;
  font-size: 12.5px;
  padding-bottom: 10px;
  margin-bottom: 8px;
  border-bottom: 1px solid var(--hairline);
}
</style>
