<script setup lang="ts">
import { computed, onMounted, ref, shallowRef } from 'vue'
import {
  dateWords,
  formatInstant,
  fromUnixTime,
  mayDo,
  MINUTES_PER_DAY,
  readDate,
  type MadeShare,
  type Share,
  type Shown,
} from '@geodrome/core'
import { api } from '../../api/client.ts'
import ActButton from '../../controls/ActButton.vue'
import ChoiceField from '../../controls/ChoiceField.vue'
import FactTable from '../../controls/FactTable.vue'
import OnceShown from '../../controls/OnceShown.vue'
import RadioChoice from '../../controls/RadioChoice.vue'
import TextField from '../../controls/TextField.vue'
import { optionsOf } from '../../controls/options.ts'
import { authorName } from '../../stores/identity.ts'
import { usePlanStore } from '../../stores/planStore.ts'

/** Links by which others see some of the plan: what they show is chosen, they run out, they are taken back. */
const plans = usePlanStore()
const SHOWS: readonly (readonly [Shown, string])[] = [
  ['party', 'one party’s work, with the latest dates that cost nothing'],
  ['milestones', 'milestones and payments'],
  ['all', 'all activities'],
]
const DAYS = 30

const shares = shallowRef<readonly Share[] | null>(null)
const problem = ref('')
const made = shallowRef<MadeShare | null>(null)
const now = fromUnixTime(Date.now())
const dayIn = (days: number): string => formatInstant(now + days * MINUTES_PER_DAY).slice(0, 10)

const owners = computed(() =>
  [
    ...new Set(
      (plans.viewPlan?.activities ?? []).flatMap(({ owner }) => {
        const name = owner?.trim() ?? ''
        return name === '' ? [] : [name]
      }),
    ),
  ].sort((a, b) => a.localeCompare(b)),
)
const shows = ref<Shown>(owners.value.length > 0 ? 'party' : 'milestones')
const owner = ref(owners.value[0] ?? '')
const title = ref('')
const until = ref(dateWords(dayIn(DAYS), 'start', { year: true }))
const read = computed(() => (until.value.trim() === '' ? null : readDate(until.value, now)))
const untilDay = computed(() => (read.value?.ok ? read.value.date.slice(0, 10) : null))
const untilWords = computed(() => {
  if (read.value === null) return 'it opens until it is revoked'
  if (!read.value.ok) return read.value.why
  return untilDay.value! < dayIn(0)
    ? 'that day is past'
    : `it opens to the end of ${dateWords(untilDay.value!, 'start', { year: true })}`
})
const isWrong = computed(
  () =>
    (read.value !== null && (!read.value.ok || untilDay.value! < dayIn(0))) ||
    (shows.value === 'party' && owner.value === ''),
)

const attempt = async (act: () => Promise<void>): Promise<void> => {
  problem.value = ''
  try {
    await act()
  } catch (error) {
    problem.value = (error as Error).message
  }
}
const load = async (): Promise<void> => {
  shares.value = await api.shares(plans.planId!)
}
/** Links are given by who may change the plan. */
const mayGive = computed(() => mayDo(plans.role, 'plan'))
onMounted(() => mayGive.value && attempt(load))
const make = (): Promise<void> =>
  attempt(async () => {
    made.value = await api.share(plans.planId!, {
      shows: shows.value,
      owner: shows.value === 'party' ? owner.value : null,
      scenario: plans.scenarioId,
      title: title.value,
      by: authorName.value,
      until: untilDay.value,
    })
    title.value = ''
    await load()
  })
const revoke = (share: Share): Promise<void> =>
  attempt(async () => {
    await api.revokeShare(plans.planId!, share.id)
    if (made.value?.id === share.id) made.value = null
    await load()
  })
const address = computed(() => (made.value ? `${location.origin}/shared/${made.value.token}` : ''))
const what = ({ shows: kind, owner: whose }: Share): string =>
  kind === 'party'
    ? `the work of ${whose ?? ''}`
    : kind === 'milestones'
      ? 'milestones and payments'
      : 'all activities'
const of = ({ scenario }: Share): string => {
  if (scenario === null) return 'the plan'
  const found = plans.plan?.scenarios.find(({ id }) => id === scenario)
  return found ? found.name || 'a scenario without a name' : 'a scenario that is gone: it opens nothing'
}
const isOver = ({ until: last }: Share): boolean => last !== null && last < dayIn(0)
const day = (iso: string): string => dateWords(iso.slice(0, 10), 'start', { year: true })
</script>

<template>
  <section v-if="!mayGive" class="share scroll">
    <p class="soft">Links to this plan are given by its analysts and administrators.</p>
  </section>
  <section v-else class="share scroll">
    <div class="new">
      <h1>A link for others</h1>
      <p class="soft">
        Who has it sees {{ plans.meantWords }} as it stands when they look, on a page without anything else,
        and can take the dates into a diary. They change nothing, and nothing but what is chosen is sent.
      </p>
      <RadioChoice v-model="shows" label="What it shows" :options="optionsOf(SHOWS)" />
      <template v-if="shows === 'party'">
        <ChoiceField
          v-if="owners.length > 0"
          v-model="owner"
          label="Whose work"
          :options="owners.map((name) => ({ value: name, label: name }))"
        />
        <p v-else class="signal">
          No activity has an owner: give some one in the Network, or show milestones.
        </p>
      </template>
      <label
        >For whom <TextField v-model="title" maxlength="200" placeholder="not said; told to nobody"
      /></label>
      <label
        >Until
        <TextField
          v-model="until"
          placeholder="until it is revoked"
          :invalid="read !== null && !read.ok"
        /><small :class="{ brick: isWrong }">{{ untilWords }}</small></label
      >
      <p>
        <ActButton
          kind="primary"
          :disabled="isWrong || plans.kept !== null"
          data-test="make-link"
          @click="make"
          >Make the link</ActButton
        >
        <span v-if="plans.kept" class="signal"
          >A link shows the plan as it is when it is opened: go back to the plan first.</span
        >
      </p>
      <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
      <OnceShown v-if="made" :address="address" data-test="made-link">
        <template #acts>
          <a class="noun" :href="address" target="_blank" rel="noopener">Look at it as they will</a>
        </template>
      </OnceShown>
    </div>
    <div class="made-before">
      <h2>Links that open</h2>
      <p v-if="shares === null && !problem" class="soft">Reading them …</p>
      <p v-else-if="shares?.length === 0" class="soft">None: nobody but you sees this plan.</p>
      <FactTable v-else-if="shares" data-test="links">
        <thead>
          <tr>
            <th>For</th>
            <th>Shows</th>
            <th>Of</th>
            <th>Until</th>
            <th>Last opened</th>
            <td />
          </tr>
        </thead>
        <tbody>
          <tr v-for="share in shares" :key="share.id" :class="{ soft: isOver(share) }">
            <td>{{ share.title || 'not said' }}</td>
            <td>{{ what(share) }}</td>
            <td>{{ of(share) }}</td>
            <td>
              {{ share.until === null ? 'no end' : day(share.until)
              }}<template v-if="isOver(share)">, over</template>
            </td>
            <td>{{ share.openedAt === null ? 'never' : day(share.openedAt) }}</td>
            <td class="right">
              <ActButton
                kind="bare"
                :aria-label="`Revoke the link for ${share.title || what(share)}`"
                @click="revoke(share)"
                >Revoke</ActButton
              >
            </td>
          </tr>
        </tbody>
      </FactTable>
    </div>
  </section>
</template>

<style scoped>
.share {
  flex: 1;
  min-height: 0;
  padding: 20px 28px;
  display: grid;
  grid-template-columns: minmax(300px, 380px) 1fr;
  gap: 36px;
  align-content: start;
}
.new,
.made-before {
  display: flex;
  flex-direction: column;
  gap: 12px;
}
label {
  display: flex;
  flex-direction: column;
  gap: 3px;
  font-weight: 600;
}
label small {
  font-weight: 400;
  color: var(--soft-ink);
}
label small.brick {
  color: var(--brick);
}
.made-before th,
.made-before td {
  padding-right: 12px;
}
</style>
