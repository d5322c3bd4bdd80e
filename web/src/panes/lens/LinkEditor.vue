<script setup lang="ts">
import { type Choice } from '../../controls/options.ts'
import ChoiceField from '../../controls/ChoiceField.vue'
import { ArrowRight, X } from '@lucide/vue'
import ActButton from '../../controls/ActButton.vue'
import IconButton from '../../controls/IconButton.vue'
import TextField from '../../controls/TextField.vue'
import { computed, nextTick, ref, watch } from 'vue'
import {
  durationWords,
  findByCodeOrName,
  freshId,
  groupEnds,
  lagCalendarOf,
  linkPhrase,
  readLinks,
  linkGroup,
  type Change,
  type FindEnd,
  type Link,
  newLink,
} from '@geodrome/core'
import { useAttempt } from '../../composables/useAttempt.ts'
import { linkIndex } from '../../composables/linkIndex.ts'
import { useCalendars } from '../../composables/useCalendars.ts'
import { useForesight } from '../../composables/useForesight.ts'
import { useLensStore } from '../../stores/lensStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import LinkPicker from './LinkPicker.vue'

const props = defineProps<{ activity: string; side: 'in' | 'out'; slack: ReadonlyMap<string, number> }>()
const plans = usePlanStore()
const lens = useLensStore()
const ui = useUiStore()
type TextInput = InstanceType<typeof TextField>
const calendars = useCalendars(() => lens.plan)

const links = computed(() => {
  const { into, out } = linkIndex(lens.plan?.links ?? [])
  return (props.side === 'in' ? into : out).get(props.activity) ?? []
})
const codeOf = (id: string): string => lens.activity(id)?.code ?? id
const otherOf = (link: Link): string => (props.side === 'in' ? link.from : link.to)
const lagLengths = (link: Pick<Link, 'lagOn' | 'from' | 'to'>) =>
  calendars.value!.lengths(
    lagCalendarOf(lens.plan!.project, link, lens.activity(link.from), lens.activity(link.to)),
  )
/** In the same words as it is typed; from the predecessor's side the sentence is the successor's. */
const phrase = (link: Link): string => {
  const words = linkPhrase(link, codeOf(link.from), lagLengths(link))
  return props.side === 'in' ? words : `${codeOf(link.to)} ${words}`
}

const editing = ref<string | null>(null)
const isPicking = ref(false)
watch(
  () => props.activity,
  () => (isPicking.value = false),
)
const text = ref('')
/** Of the link that is being typed; drawn once, so that what was foreseen is what is made. */
let newId = ''
const { problem, attempt } = useAttempt()
const input = ref<TextInput[] | TextInput | null>(null)

const begin = async (link: Link | null): Promise<void> => {
  editing.value = link?.id ?? 'new'
  newId = freshId(plans.plan!.links, 'l', Math.random)
  text.value = link ? linkPhrase(link, codeOf(link.from), lagLengths(link)) : ''
  problem.value = ''
  await nextTick()
  const field = Array.isArray(input.value) ? input.value[0] : input.value
  field?.focus()
  field?.select()
}

/** A group typed instead of an activity: the links between activities that are made instead, named before they are. */
const groupMeant = (code: string, type: Link['type'], lag: number) => {
  const plan = lens.plan!
  const group = plan.groups.find((g) => g.code.toLowerCase() === code.toLowerCase())
  if (!group) return null
  const ends = groupEnds(plan, group.id, props.side === 'in' ? 'from' : 'to').filter(
    (id) => id !== props.activity,
  )
  if (ends.length === 0) return { ok: false as const, why: `${group.name || code} has no open end to tie` }
  const change = linkGroup(
    plan,
    props.side === 'in' ? { from: ends, to: [props.activity] } : { from: [props.activity], to: ends },
    type,
    lag,
    Math.random,
  )
  return {
    ok: true as const,
    change,
    words: `${group.name || code} is a group; tied instead: ${ends.map(codeOf).join(', ')}`,
  }
}

/** An activity or a group, by what is typed. */
type End = { readonly id: string; readonly code: string; readonly isGroup: boolean }
const findEnd = computed((): FindEnd<End> => {
  const { activities, groups } = lens.plan!
  const find = findByCodeOrName(activities)
  return (ref) => {
    const found = find(ref)
    if (found.length > 0) return found.map(({ id, code }) => ({ id, code, isGroup: false }))
    return groups
      .filter(({ code }) => code.toLowerCase() === ref.toLowerCase())
      .map(({ id, code }) => ({ id, code, isGroup: true }))
  }
})
/** What is typed, as a change; typed at the predecessor it names successors. An existing link becomes one other, a new text any number. */
const understood = computed(() => {
  if (editing.value === null || text.value.trim() === '') return null
  const existing = links.value.find((l) => l.id === editing.value)
  const typed = readLinks(text.value, findEnd.value)
  if (!typed.ok) return typed
  if (existing && typed.links.length > 1)
    return { ok: false as const, why: 'this is one link; add the others below' }
  const changes: Change[] = []
  const words: string[] = []
  for (const [k, { to: other, type, lag }] of typed.links.entries()) {
    if (other.isGroup) {
      const minutes = lag(calendars.value!.lengthsOf(lens.activity(props.activity)!))
      if (!minutes.ok) return minutes
      const meant = groupMeant(other.code, type, minutes.minutes)
      if (!meant?.ok) return meant
      changes.push(meant.change)
      words.push(meant.words)
      continue
    }
    const [from, to] =
      props.side === 'in' || existing
        ? [other.id, existing?.to ?? props.activity]
        : [props.activity, other.id]
    // A lag counts on the calendar of the link, which for a new one depends on both ends.
    const own = lagLengths({ lagOn: existing?.lagOn ?? null, from, to })
    const minutes = lag(own)
    if (!minutes.ok) return minutes
    const ends = { from, to, type, lag: minutes.minutes }
    changes.push(
      existing
        ? { kind: 'set', list: 'links', key: existing.id, set: ends }
        : { kind: 'add', list: 'links', before: null, item: newLink({ id: `${newId}${k || ''}`, ...ends }) },
    )
    words.push(`${codeOf(to)} ${linkPhrase(ends, codeOf(from), own)}`)
  }
  if (changes.length === 0) return null
  return {
    ok: true as const,
    change: changes.length === 1 ? changes[0]! : ({ kind: 'all', changes } as Change),
    words: words.join('; '),
  }
})
const foreseen = useForesight(() => (understood.value?.ok ? understood.value.change : null))

const run = (change: Change): boolean => attempt(() => plans.edit(change))
const keep = (): void => {
  if (understood.value?.ok && run(understood.value.change)) editing.value = null
}
const setLink = (link: Link, set: Record<string, unknown>): void =>
  void run({ kind: 'set', list: 'links', key: link.id, set })
const NATURES = ['hard', 'preferred', 'resource', 'outside']
/** A file may hold a nature of its own. */
const naturesWith = (own: string): Choice[] =>
  [...new Set([...NATURES, own])].map((nature) => ({ value: nature, label: nature }))
const lagOptions = computed((): Choice[] => [
  { value: '', label: 'as the project says' },
  { value: 'from', label: 'calendar of the one before' },
  { value: 'to', label: 'calendar of the one after' },
  { value: 'project', label: 'the project’s calendar' },
  { value: 'clock', label: 'round the clock' },
  ...lens.plan!.calendars.map((c) => ({ value: `calendar:${c.id}`, label: c.name || c.id })),
])
const room = (link: Link): string => {
  const minutes = props.slack.get(link.id)
  const successor = lens.activity(link.to)
  if (minutes === undefined || !successor || !calendars.value) return ''
  return minutes <= 0 ? 'drives' : `${durationWords(minutes, calendars.value.lengthsOf(successor))} to spare`
}
const remove = (link: Link): void => void run({ kind: 'remove', list: 'links', key: link.id })
</script>

<template>
  <div class="links" :data-test="`links-${side}`">
    <h3>{{ side === 'in' ? 'Waits for' : 'Leads to' }}</h3>
    <div v-for="link in links" :key="link.id" class="line">
      <template v-if="editing !== link.id">
        <span class="chip-pair">
          <ActButton :title="`Change this link (${link.type}). ${link.reason}`" @click="begin(link)">
            {{ phrase(link) }}
          </ActButton>
          <IconButton
            :icon="ArrowRight"
            class="small"
            :label="`Go to ${codeOf(otherOf(link))}`"
            @click="ui.select(otherOf(link), { show: true })"
          />
          <IconButton
            :icon="X"
            class="small"
            :label="`Remove the link ${phrase(link)}`"
            @click="remove(link)"
          />
        </span>
        <span class="soft type" :title="link.reason || undefined"
          >{{ link.nature === 'hard' ? link.type : `${link.type}, ${link.nature}`
          }}{{ room(link) ? ` · ${room(link)}` : '' }}</span
        >
      </template>
      <span v-else class="typing">
        <TextField
          ref="input"
          v-model="text"
          label="Link in words"
          @keydown.enter.prevent="keep"
          @keydown.esc="editing = null"
        />
        <small :class="{ brick: understood && !understood.ok }"
          >{{ understood === null ? '' : understood.ok ? understood.words : understood.why
          }}<template v-if="foreseen">: {{ foreseen }}</template></small
        >
        <div class="field">
          The lag counts on
          <ChoiceField
            label="The lag counts on"
            :model-value="link.lagOn ?? ''"
            :options="lagOptions"
            @update:model-value="setLink(link, { lagOn: $event || null })"
          />
        </div>
        <div class="field">
          It is
          <ChoiceField
            label="It is"
            :model-value="link.nature"
            :options="naturesWith(link.nature)"
            @update:model-value="setLink(link, { nature: $event })"
          />
        </div>
        <label
          >Because
          <TextField
            :kept="link.reason"
            maxlength="2000"
            placeholder="why it is so"
            @keep="setLink(link, { reason: $event })"
        /></label>
        <span class="row"
          ><ActButton @click="keep">Apply</ActButton
          ><ActButton @click="editing = null">Close</ActButton></span
        >
      </span>
    </div>
    <LinkPicker v-if="isPicking" :activity="activity" :side="side" @close="isPicking = false" />
    <p v-else-if="editing !== 'new'" class="ways">
      <ActButton kind="bare" class="add" @click="begin(null)">
        {{ side === 'in' ? 'Add what it waits for' : 'Add what it leads to' }}
      </ActButton>
      <ActButton
        kind="bare"
        class="add"
        :aria-label="side === 'in' ? 'Pick several that it waits for' : 'Pick several that it leads to'"
        @click="isPicking = true"
      >
        Pick several
      </ActButton>
    </p>
    <span v-else class="typing">
      <TextField
        ref="input"
        v-model="text"
        :label="side === 'in' ? 'What it waits for' : 'What it leads to'"
        :placeholder="
          side === 'in'
            ? 'after H10, 2d later · with the start of H10 · ends with H10'
            : 'a code, or code SS 2d'
        "
        @keydown.enter.prevent="keep"
        @keydown.esc="editing = null"
      />
      <small :class="{ brick: understood && !understood.ok }"
        >{{ understood === null ? '' : understood.ok ? understood.words : understood.why
        }}<template v-if="foreseen">: {{ foreseen }}</template></small
      >
    </span>
    <p v-if="problem" class="brick" role="alert" data-test="link-problem">{{ problem }}</p>
  </div>
</template>

<style scoped>
.links {
  padding: 10px 0;
  border-bottom: 1px solid var(--hairline);
  display: flex;
  flex-direction: column;
  gap: 4px;
}
.line {
  flex-wrap: wrap;
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 6px;
}
.chip-pair {
  display: inline-flex;
  align-items: center;
  gap: 2px;
  min-width: 0;
}
.small {
  width: 24px;
  height: 24px;
  text-align: center;
  color: var(--soft-ink);
  line-height: 24px;
}
.type {
  font-size: 11.5px;
  white-space: nowrap;
}
.add {
  color: var(--fjord);
  font-weight: 600;
  width: fit-content;
  min-height: 24px;
}
.ways {
  display: flex;
  gap: 18px;
}
.typing label,
.typing .field {
  display: grid;
  grid-template-columns: 96px 1fr;
  align-items: center;
  gap: 6px;
  font-size: 12.5px;
  color: var(--soft-ink);
}
.row {
  display: flex;
  gap: 6px;
  margin: 2px 0 6px;
}
.typing {
  display: flex;
  flex-direction: column;
  gap: 2px;
  width: 100%;
}
</style>
