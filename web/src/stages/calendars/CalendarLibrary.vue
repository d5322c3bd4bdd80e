<script setup lang="ts">
import ActButton from '../../controls/ActButton.vue'
import TextField from '../../controls/TextField.vue'
import { computed, ref } from 'vue'
import {
  calendarLibrary,
  copyOfCalendar,
  counted,
  type CalendarsOfPlan,
  type Item,
  type LibraryCalendar,
} from '@geodrome/core'
import { hoursWords } from './hoursWords.ts'

/** The calendars of other plans, below those of this one: a click takes a copy, which remembers where it is from. */
const props = defineProps<{
  own: CalendarsOfPlan['calendars']
  others: readonly CalendarsOfPlan[] | null
  problem: string
}>()
const emit = defineEmits<{ take: [calendar: Item] }>()

const MOST = 12
const FIND_FROM = 6
const all = computed(() => (props.others ? calendarLibrary(props.others, props.own) : []))
const find = ref('')
const isFound = (text: string): boolean => text.toLowerCase().includes(find.value.trim().toLowerCase())
/** Where a copy is taken from: the plan that was asked for, where several say the same. */
const sourceOf = ({ from }: LibraryCalendar) => from.find((f) => isFound(f.in.plan)) ?? from[0]!
const found = computed(() => all.value.filter((c) => isFound(`${c.name} of ${sourceOf(c).in.plan}`)))
const planWords = (c: LibraryCalendar): string =>
  `of ${sourceOf(c).in.plan}${c.from.length > 1 ? ` and ${counted(c.from.length - 1, 'other plan')}` : ''}`
const take = (c: LibraryCalendar): void =>
  emit('take', copyOfCalendar(sourceOf(c).in, sourceOf(c).calendarId))
</script>

<template>
  <section class="library" aria-label="Library" data-test="calendar-library">
    <h2>Library</h2>
    <p v-if="others === null" class="soft">{{ problem || 'Calendars of other plans are being fetched.' }}</p>
    <p v-else-if="all.length === 0" class="soft">No other plan has a calendar that this one has not.</p>
    <template v-else>
      <p class="soft">
        Calendars of other plans. A click takes a copy, which says when its origin has changed.
      </p>
      <TextField
        v-if="all.length >= FIND_FROM"
        v-model="find"
        class="find"
        label="Find in the library"
        placeholder="Find by name or plan"
      />
      <ActButton
        kind="row"
        v-for="c in found.slice(0, MOST)"
        :key="`${c.name} ${c.from[0]!.in.planId} ${c.from[0]!.calendarId}`"
        :title="`Take a copy of ${c.name}`"
        @click="take(c)"
      >
        <strong>{{ c.name }}</strong>
        <small class="soft">{{ hoursWords(c.hours, null) }}</small>
        <small class="soft">{{ planWords(c) }}</small>
      </ActButton>
      <p v-if="found.length > MOST" class="soft">and {{ found.length - MOST }} more; find them by name.</p>
      <p v-if="found.length === 0" class="soft">None of {{ all.length }} is called that.</p>
    </template>
  </section>
</template>

<style scoped>
.library {
  padding: 12px 14px;
}
h2 {
  font-size: 14px;
}
.find {
  margin: 6px 0;
}
.row strong {
  font-weight: 600;
}
</style>
