<script setup lang="ts">
import TextField from '../controls/TextField.vue'
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import {
  describeChange,
  findByCodeOrName,
  freshId,
  lagCalendarOf,
  PlanError,
  readDuration,
  readLinks,
  setDuration,
  type Activity,
  type Change,
  newLink,
} from '@geodrome/core'
import { useCalendars } from '../composables/useCalendars.ts'
import { useForesight } from '../composables/useForesight.ts'
import { offeredCommands } from '../commands/registry.ts'
import { account } from '../stores/account.ts'
import { authorName } from '../stores/identity.ts'
import { useListStore } from '../panes/rows/listStore.ts'
import { literalFirst, sought, soughtByMeaning } from './sought.ts'
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
const calendars = useCalendars(() => plans.viewPlan)
const text = ref('')
const at = ref(0)
const input = ref<InstanceType<typeof TextField> | null>(null)

const showActivity = (id: string): void => {
  void router.push({ name: 'network', params: { id: route.params.id as string } })
  ui.filter = null
  void nextTick(() => ui.select(id, { show: true }))
}
const commands = computed((): (Entry & { readonly explains: string })[] =>
  offeredCommands()
    .filter(({ isKeyOnly }) => !isKeyOnly)
    .map(({ label, keys, explains, closed, run }) => ({
      label,
      explains,
      hint: closed || keys[0] || explains,
      run,
    })),
)
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
  const plan = plans.viewPlan!
  const read = readLinks(what, findByCodeOrName(plan.activities))
  if (!read.ok) return read.why
  const changes: Change[] = []
  for (const { to: from, type, lag } of read.links) {
    const minutes = lag(
      calendars.value!.lengths(lagCalendarOf(plan.project, { lagOn: null }, from, activity)),
    )
    if (!minutes.ok) return minutes.why
    const id = freshId(plan.links, 'l', Math.random)
    const item = newLink({ id, from: from.id, to: activity.id, type, lag: minutes.minutes })
    changes.push({ kind: 'add', list: 'links', before: null, item })
  }
  return changes.length === 1 ? changes[0]! : { kind: 'all', changes }
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
  const named = /^i am (.+)$/i.exec(text.value.trim())
  if (named && account.value === null)
    return [
      {
        label: `Sign changes as “${named[1]}”`,
        hint: `now “${authorName.value}”`,
        run: () => (authorName.value = named[1]!.slice(0, 100)),
      },
    ]
  const activities = plans.viewPlan?.activities ?? []
  const found = sought(
    activities.map(({ code, name }) => `${code}  ${name}`),
    text.value,
    12,
  )
  const offered = [
    ...found.map((i) => ({
      label: `${activities[i]!.code}  ${activities[i]!.name}`,
      hint: 'activity',
      run: () => showActivity(activities[i]!.id),
    })),
    ...(text.value.trim() === ''
      ? commands.value
      : soughtByMeaning(commands.value, text.value, 16).map((i) => commands.value[i]!)),
  ]
  return literalFirst(offered, ({ label }) => label, text.value).slice(0, 16)
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
  background: rgb(10 14 20 / 24%);
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
