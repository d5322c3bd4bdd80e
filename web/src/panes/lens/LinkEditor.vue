<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import { freshId, lagCalendarOf, linkPhrase, readLink, type Change, type Link } from '@geodrome/core'
import { useAttempt } from '../../composables/useAttempt.ts'
import { useCalendars } from '../../composables/useCalendars.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'

const props = defineProps<{ activity: string; side: 'in' | 'out' }>()
const plans = usePlanStore()
const ui = useUiStore()
const calendars = useCalendars(() => plans.viewPlan)

const links = computed(() => (plans.viewPlan?.links ?? []).filter((l) => (props.side === 'in' ? l.to : l.from) === props.activity))
const codeOf = (id: string): string => plans.activity(id)?.code ?? id
const otherOf = (link: Link): string => (props.side === 'in' ? link.from : link.to)
const lagLengths = (link: Pick<Link, 'lagOn' | 'from' | 'to'>) =>
  calendars.value!.lengths(lagCalendarOf(plans.viewPlan!.project, link, plans.activity(link.from), plans.activity(link.to)))
/** In the same words as it is typed; from the predecessor's side the sentence is the successor's. */
const phrase = (link: Link): string => {
  const words = linkPhrase(link, codeOf(link.from), lagLengths(link))
  return props.side === 'in' ? words : `${codeOf(link.to)} ${words}`
}

const editing = ref<string | null>(null)
const text = ref('')
const { problem, attempt } = useAttempt()
const input = ref<HTMLInputElement[] | HTMLInputElement | null>(null)

const begin = async (link: Link | null): Promise<void> => {
  editing.value = link?.id ?? 'new'
  text.value = link ? linkPhrase(link, codeOf(link.from), lagLengths(link)) : ''
  problem.value = ''
  await nextTick()
  const field = Array.isArray(input.value) ? input.value[0] : input.value
  field?.focus()
  field?.select()
}

/** What the typed sentence means, as a change; typed at the predecessor it names the successor. */
const understood = computed(() => {
  if (editing.value === null || text.value.trim() === '') return null
  const existing = links.value.find((l) => l.id === editing.value)
  const self = plans.activity(props.activity)!
  const lengths = existing ? lagLengths(existing) : calendars.value!.lengthsOf(self)
  const read = readLink(text.value, lengths)
  if (!read.ok) return read
  const other = plans.viewPlan!.activities.find((a) => a.code.toLowerCase() === read.code.toLowerCase())
  if (!other) return { ok: false as const, why: `there is no activity ${read.code}` }
  const [from, to] = props.side === 'in' || existing ? [other.id, existing?.to ?? props.activity] : [props.activity, other.id]
  // A lag counts on the calendar of the link, which for a new one depends on both ends.
  const own = lagLengths({ lagOn: existing?.lagOn ?? null, from, to })
  const exact = readLink(text.value, own)
  if (!exact.ok) return exact
  return { ok: true as const, from, to, type: exact.type, lag: exact.lag, words: `${codeOf(to)} ${linkPhrase(exact, codeOf(from), own)}` }
})

const run = (change: Change): boolean => attempt(() => plans.edit(change))
const keep = (): void => {
  const meant = understood.value
  if (!meant?.ok) return
  const existing = links.value.find((l) => l.id === editing.value)
  const ends = { from: meant.from, to: meant.to, type: meant.type, lag: meant.lag }
  const change: Change = existing
    ? { kind: 'set', list: 'links', key: existing.id, set: ends }
    : { kind: 'add', list: 'links', before: null, item: { id: freshId(plans.viewPlan!.links, 'l', Math.random), ...ends, lagOn: null, nature: 'hard', reason: '' } }
  if (run(change)) editing.value = null
}
const remove = (link: Link): void => void run({ kind: 'remove', list: 'links', key: link.id })
</script>

<template>
  <div class="links" :data-test="`links-${side}`">
    <h3>{{ side === 'in' ? 'Waits for' : 'Leads to' }}</h3>
    <div v-for="link in links" :key="link.id" class="line">
      <template v-if="editing !== link.id">
        <span class="chip-pair">
          <button class="chip" :title="`Change this link (${link.type}). ${link.reason}`" @click="begin(link)">{{ phrase(link) }}</button>
          <button class="plain small" :aria-label="`Go to ${codeOf(otherOf(link))}`" @click="ui.select(otherOf(link), { show: true })">→</button>
          <button class="plain small" :aria-label="`Remove the link ${phrase(link)}`" @click="remove(link)">×</button>
        </span>
        <span class="soft type">{{ link.type }}{{ plans.view?.driving.has(link.id) ? ' · drives' : '' }}</span>
      </template>
      <span v-else class="typing">
        <input ref="input" v-model="text" aria-label="Link in words" @keydown.enter.prevent="keep" @keydown.esc="editing = null" />
        <small :class="{ brick: understood && !understood.ok }">{{ understood === null ? '' : understood.ok ? understood.words : understood.why }}</small>
      </span>
    </div>
    <button v-if="editing !== 'new'" class="plain add" @click="begin(null)">{{ side === 'in' ? 'Add what it waits for' : 'Add what it leads to' }}</button>
    <span v-else class="typing">
      <input
        ref="input"
        v-model="text"
        :aria-label="side === 'in' ? 'What it waits for' : 'What it leads to'"
        :placeholder="side === 'in' ? 'after H10, 2d later · with the start of H10 · ends with H10' : 'a code, or code SS 2d'"
        @keydown.enter.prevent="keep"
        @keydown.esc="editing = null"
      />
      <small :class="{ brick: understood && !understood.ok }">{{ understood === null ? '' : understood.ok ? understood.words : understood.why }}</small>
    </span>
    <p v-if="problem" class="brick" role="alert" data-test="link-problem">{{ problem }}</p>
  </div>
</template>

<style scoped>
.links { padding: 10px 0; border-bottom: 1px solid var(--hairline); display: flex; flex-direction: column; gap: 4px; }
.line { display: flex; justify-content: space-between; align-items: center; gap: 6px; }
.chip-pair { display: inline-flex; align-items: center; gap: 2px; min-width: 0; }
.chip { max-width: 200px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; display: inline-block; line-height: 24px; }
.small { width: 24px; height: 24px; text-align: center; color: var(--soft-ink); line-height: 24px; }
.type { font-size: 11.5px; white-space: nowrap; }
.add { color: var(--fjord); font-weight: 600; width: fit-content; min-height: 24px; }
.typing { display: flex; flex-direction: column; gap: 2px; width: 100%; }
input { border: 1.5px solid var(--ink); border-radius: 6px; background: var(--raised); color: var(--ink); font: inherit; padding: 4px 8px; width: 100%; }
input::placeholder { color: var(--soft-ink); opacity: 1; }
</style>
