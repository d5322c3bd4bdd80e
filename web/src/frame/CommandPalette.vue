<script setup lang="ts">
import TextField from '../controls/TextField.vue'
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import {
  describeChange,
  freshId,
  lagCalendarOf,
  PlanError,
  readDuration,
  readLink,
  setDuration,
  type Activity,
  type Change,
  newLink,
} from '@geodrome/core'
import { useCalendars } from '../composables/useCalendars.ts'
import { useForesight } from '../composables/useForesight.ts'
import { useListCommands } from '../panes/rows/useListCommands.ts'
import { STAGES } from './stages.ts'
import { api } from '../api/client.ts'
import { authorName } from '../stores/identity.ts'
import { useListStore } from '../panes/rows/listStore.ts'
import { foldedFrom, groupDepths } from '../panes/rows/foldLevel.ts'
import { usePlanStore } from '../stores/planStore.ts'
import { useUiStore } from '../stores/uiStore.ts'

interface Entry {
  readonly label: string
  readonly hint: string
  readonly run: () => void
}

const ui = useUiStore()
const plans = usePlanStore()
const router = useRouter()
const route = useRoute()
const list = useListStore()
const { commands: listCommands, run: runCommand } = useListCommands()
const calendars = useCalendars(() => plans.viewPlan)
const text = ref('')
const at = ref(0)
const input = ref<InstanceType<typeof TextField> | null>(null)

const go = (name: string): void => void router.push({ name, params: { id: route.params.id as string } })
const goReview = (part: string): void =>
  void router.push({ name: 'review', params: { id: route.params.id as string, part } })
const showActivity = (id: string): void => {
  go('network')
  ui.filter = null
  void nextTick(() => ui.select(id, { show: true }))
}
/** The list folded to each level that its groups have, or all of it open. */
const levels = computed((): Entry[] => {
  const { groups } = plans.viewPlan ?? { groups: [] }
  const deepest = [...groupDepths(groups).values()].reduce((a, b) => Math.max(a, b), -1)
  const foldTo = (depth: number) => () => {
    ui.collapsed = foldedFrom(groups, depth)
    go('network')
  }
  return deepest < 0
    ? []
    : [
        ...Array.from({ length: deepest + 1 }, (_, k) => ({
          label: `Fold the list to level ${k + 1}`,
          hint: k === 0 ? '[ folds by one level' : '',
          run: foldTo(k),
        })),
        { label: 'Open all groups of the list', hint: '] opens by one level', run: foldTo(Infinity) },
      ]
})
const commands = computed((): Entry[] => [
  ...(plans.stacks.undo.length > 0 || plans.hasEarlier
    ? [{ label: 'Undo the last change', hint: 'Ctrl Z', run: () => void plans.undo() }]
    : []),
  ...(plans.stacks.redo.length > 0 ? [{ label: 'Do it again', hint: 'Ctrl Shift Z', run: plans.redo }] : []),
  ...STAGES.map((stage, k) => ({
    label: `Go to ${stage.label}`,
    hint: `Alt ${k + 1}`,
    run: () => go(stage.name),
  })),
  ...[{ id: null, name: 'the plan' }, ...(plans.base?.scenarios ?? [])]
    .filter((s) => s.id !== plans.scenarioId)
    .map((s) => ({
      label: `View ${s.id === null ? s.name : `scenario ${s.name}`}`,
      hint: 'changes are made in what is in view',
      run: () => plans.viewScenario(s.id),
    })),
  ...(route.name === 'network'
    ? listCommands.value.map((d) => ({
        label: d.label,
        hint: d.closed || (d.keys === '' ? d.explains : d.keys),
        run: () => runCommand(d.id),
      }))
    : []),
  ...levels.value,
  ...list.views.map((v) => ({
    label: `List as ${v.name}`,
    hint: 'columns, order, filter',
    run: () => {
      list.use(v.name)
      go('network')
    },
  })),
  ...(
    [
      ['ground', 'the Ground'],
      ['map', 'the Map'],
      ['arrows', 'the Arrow map'],
    ] as const
  )
    .filter(([id]) => id !== ui.pane)
    .map(([id, name]) => ({
      label: `Show ${name} beside the list`,
      hint: 'M',
      run: () => {
        ui.pane = id
        go('network')
      },
    })),
  {
    label: 'Choose columns, order, filter of the list',
    hint: '',
    run: () => {
      go('network')
      list.panelOpen = true
    },
  },
  { label: 'Changes, and who made them', hint: '', run: () => (ui.changesOpen = true) },
  {
    label: 'Test whether a delay arrives at the finish',
    hint: 'path integrity, in Review',
    run: () => goReview('integrity'),
  },
  { label: 'Assess the 14 points', hint: 'in Review', run: () => goReview('points') },
  {
    label: 'Compare two revisions',
    hint: 'with a plan file, or with the plan as it was',
    run: () => goReview('revisions'),
  },
  { label: 'Set the limits of Review', hint: 'what counts as too much', run: () => goReview('limits') },
  { label: 'Print or export the review', hint: 'page, XLSX, CSV', run: () => goReview('record') },
  { label: 'Show the longest path alone', hint: 'in the list and on the Ground', run: showLongestPath },
  {
    label: ui.theme === 'dusk' ? 'Daylight theme' : 'Dusk theme',
    hint: '',
    run: () => (ui.theme = ui.theme === 'dusk' ? 'daylight' : 'dusk'),
  },
  { label: 'Show times in all dates', hint: 'T', run: () => (ui.allTimes = !ui.allTimes) },
  { label: 'Keys', hint: '?', run: () => (ui.shortcutsOpen = true) },
  {
    label: 'Export the plan file',
    hint: 'JSON, for a colleague or another program',
    run: () => window.open(api.fileUrl(plans.planId!), '_self'),
  },
  { label: 'All plans', hint: '', run: () => void router.push('/') },
])
function showLongestPath(): void {
  const { view, viewPlan } = plans
  if (!view || !viewPlan) return
  ui.filter = {
    ids: new Set(viewPlan.activities.filter((_, i) => view.onLongestPath[i] === 1).map((a) => a.id)),
    reason: 'on the longest path',
  }
  go('network')
}
/** "K40 7d", "K40 after K20, 2d later": what is typed after a code is done to that activity. */
const meantFor = (activity: Activity, what: string): Change | string | null => {
  const lengths = calendars.value!.lengthsOf(activity)
  if (/^\d/.test(what)) {
    const read = readDuration(what, lengths)
    if (!read.ok) return read.why
    return activity.kind === 'work'
      ? setDuration(activity, read.minutes)
      : `a ${activity.kind} has no duration of its own`
  }
  if (!/^(after|with|ends|starts)\s/i.test(what)) return null
  const first = readLink(what, lengths)
  if (!first.ok) return first.why
  const from = plans.viewPlan!.activities.find((a) => a.code.toLowerCase() === first.code.toLowerCase())
  if (!from) return `there is no activity ${first.code}`
  const read = readLink(
    what,
    calendars.value!.lengths(lagCalendarOf(plans.viewPlan!.project, { lagOn: null }, from, activity)),
  )
  if (!read.ok) return read.why
  return {
    kind: 'add',
    list: 'links',
    before: null,
    item: newLink({
      id: freshId(plans.viewPlan!.links, 'l', Math.random),
      from: from.id,
      to: activity.id,
      type: read.type,
      lag: read.lag,
    }),
  }
}
/** What is typed after a code, as a change; why not, where it is not understood; null where none is typed. */
const typed = computed((): Change | string | null => {
  const match = /^(\S+)\s+(.+)$/.exec(text.value.trim())
  const activity = match
    ? plans.viewPlan?.activities.find((a) => a.code.toLowerCase() === match[1]!.toLowerCase())
    : undefined
  return activity ? meantFor(activity, match![2]!) : null
})
const foreseen = useForesight(() => (typeof typed.value === 'string' ? null : typed.value))
const typedCommand = computed((): Entry | null => {
  const change = typed.value
  if (change === null) return null
  if (typeof change === 'string') return { label: change, hint: 'not understood', run: () => undefined }
  return {
    label: describeChange(plans.viewPlan!, change),
    hint: foreseen.value || 'Enter does it',
    run: () => {
      try {
        plans.edit(change)
      } catch (error) {
        if (!(error instanceof PlanError)) throw error
        list.problem = error.issues[0]!.message
      }
    },
  }
})
const entries = computed((): Entry[] => {
  if (typedCommand.value) return [typedCommand.value]
  const words = text.value.trim().toLowerCase().split(/\s+/).filter(Boolean)
  const fits = (label: string): boolean => words.every((word) => label.toLowerCase().includes(word))
  const named = /^i am (.+)$/i.exec(text.value.trim())
  if (named)
    return [
      {
        label: `Sign changes as “${named[1]}”`,
        hint: `now “${authorName.value}”`,
        run: () => (authorName.value = named[1]!.slice(0, 100)),
      },
    ]
  const found =
    words.length === 0
      ? []
      : (plans.viewPlan?.activities ?? []).filter((a) => fits(`${a.code} ${a.name}`)).slice(0, 12)
  return [
    ...found.map((a) => ({ label: `${a.code}  ${a.name}`, hint: 'activity', run: () => showActivity(a.id) })),
    ...commands.value.filter((d) => fits(d.label)),
  ].slice(0, 16)
})
watch(text, () => (at.value = 0))
watch(
  () => ui.paletteOpen,
  async (open) => {
    if (!open) return
    text.value = ''
    at.value = 0
    await nextTick()
    input.value?.focus()
  },
)
const close = (): void => void (ui.paletteOpen = false)
const run = (entry: Entry | undefined): void => {
  close()
  entry?.run()
}
const move = (by: number): void =>
  void (at.value = (at.value + by + entries.value.length) % Math.max(1, entries.value.length))
</script>

<template>
  <div v-if="ui.paletteOpen" class="veil" @click.self="close">
    <div class="palette" role="dialog" aria-label="Find or do" aria-modal="true">
      <TextField
        ref="input"
        v-model="text"
        label="An activity, a stage, or what you want done"
        placeholder="An activity, a stage, or what you want done; “K40 7d”, “K40 after K20”; “I am …” signs your changes"
        role="combobox"
        aria-expanded="true"
        aria-controls="palette-list"
        :aria-activedescendant="`palette-${at}`"
        @keydown.down.prevent="move(1)"
        @keydown.up.prevent="move(-1)"
        @keydown.enter.prevent="run(entries[at])"
        @keydown.esc.prevent="close"
        @keydown.tab.prevent
      />
      <ul id="palette-list" role="listbox" aria-label="Matches">
        <li
          v-for="(entry, k) in entries"
          :id="`palette-${k}`"
          :key="entry.label"
          role="option"
          :aria-selected="k === at"
          @mousemove="at = k"
          @click="run(entry)"
        >
          <span>{{ entry.label }}</span><small class="soft">{{ entry.hint }}</small>
        </li>
        <li v-if="entries.length === 0" class="soft none" role="option" aria-selected="false">
          Nothing by that name. Try a code, a word of a name, or a stage.
        </li>
      </ul>
    </div>
  </div>
</template>

<style scoped>
.veil {
  position: fixed;
  inset: 0;
  z-index: 30;
  background: color-mix(in srgb, var(--ink) 18%, transparent);
  display: flex;
  justify-content: center;
  align-items: start;
  padding-top: 12vh;
}
.palette {
  width: 560px;
  background: var(--raised);
  border: 1.5px solid var(--ink);
  border-radius: 12px;
  overflow: hidden;
}
ul {
  list-style: none;
  margin: 0;
  padding: 6px;
  max-height: 50vh;
  overflow: auto;
}
li {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 0 12px;
  padding: 6px 12px;
  border-radius: 6px;
  cursor: pointer;
  white-space: pre;
}
li[aria-selected='true'] {
  background: var(--wash);
  box-shadow: inset 3px 0 0 var(--signal);
}
.none {
  cursor: default;
}
</style>
