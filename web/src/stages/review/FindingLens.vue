<script setup lang="ts">
import RadioChoice from '../../controls/RadioChoice.vue'
import { ChevronLeft, ChevronRight } from '@lucide/vue'
import ActButton from '../../controls/ActButton.vue'
import IconButton from '../../controls/IconButton.vue'
import TextField from '../../controls/TextField.vue'
import { computed, ref, shallowRef, watch } from 'vue'
import {
  biasWords,
  checkOf,
  counted,
  EFFECT_SOURCE,
  effectWords,
  instantWords,
  limitWords,
  movesWords,
  PlanError,
  type Finding,
  type Foresight,
} from '@geodrome/core'
import { useAttempt } from '../../composables/useAttempt.ts'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useReviewStore } from '../../stores/reviewStore.ts'
import type { Preview } from '../../workers/reviewProtocol.ts'
import { keptDay } from './keptDay.ts'

const { finding, calendars } = defineProps<{ finding: Finding; calendars: CalendarLookup }>()
const emit = defineEmits<{ show: [activities: readonly string[], pane?: 'ground' | 'map']; limits: [] }>()
const plans = usePlanStore()
const store = useReviewStore()
const { problem, attempt } = useAttempt()

const check = computed(() => checkOf(finding.check)!)
const group = computed(() => store.view?.groups.find((g) => g.check === finding.check))
const reopened = computed(() => store.view?.reopened[finding.fingerprint])
const at = computed(() => group.value?.findings.findIndex((f) => f.fingerprint === finding.fingerprint) ?? 0)
const step = (by: number): void => {
  const next =
    group.value?.findings[
      (Math.max(0, at.value) + by + group.value.findings.length) % group.value.findings.length
    ]
  if (next) store.chosen = { check: next.check, fingerprint: next.fingerprint }
}
const previews = shallowRef<readonly Preview[] | null>(null)
const way = ref(0)
const preview = computed(() => previews.value?.[way.value])
const foreseen = computed(() =>
  preview.value?.foresight.kind === 'foreseen' ? preview.value.foresight : null,
)

const NAMED = 8
const names = computed(() =>
  finding.activities
    .slice(0, NAMED)
    .map((id) => ({ id, code: plans.activity(id)?.code ?? id, name: plans.activity(id)?.name ?? '' })),
)

const accepting = ref(false)
const reason = ref('')
// All repairs of one kind, looked at as one.
const all = shallowRef<{
  repaired: number
  left: number
  change: Preview['change']
  foresight: Foresight
} | null>(null)
const gathering = ref(false)
const gather = async (): Promise<void> => {
  gathering.value = true
  all.value = await store.ask<'repairAll'>({
    kind: 'repairAll',
    check: finding.check,
    repair: preview.value!.kind,
  })
  gathering.value = false
  if (!all.value) problem.value = 'none of them can be repaired so'
}
const allForeseen = computed(() => (all.value?.foresight.kind === 'foreseen' ? all.value.foresight : null))

watch(
  () => [finding.fingerprint, store.view?.version] as const,
  async ([fingerprint], before) => {
    if (before?.[0] !== fingerprint) {
      way.value = 0
      previews.value = null
      accepting.value = false
    }
    all.value = null
    problem.value = ''
    const found = await store.ask<'preview'>({ kind: 'preview', fingerprint })
    if (finding.fingerprint === fingerprint) previews.value = found
  },
  { immediate: true },
)
watch(way, () => (all.value = null))
const apply = (): void => void (preview.value && attempt(() => plans.edit(preview.value!.change)))
const applyAll = (): void => void (all.value && attempt(() => plans.edit(all.value!.change)))

const accept = async (everyone: boolean): Promise<void> => {
  if (reason.value.trim() === '') {
    problem.value = 'say why it may stand; whoever reads the review next will ask'
    return
  }
  try {
    await store.acceptFindings(
      everyone ? { check: finding.check } : [finding.fingerprint],
      reason.value.trim(),
    )
    accepting.value = false
    reason.value = ''
  } catch (error) {
    if (!(error instanceof PlanError)) throw error
    problem.value = error.issues[0]!.message
  }
}
const finish = (at: number): string => instantWords(at, 'finish')
const moves = (minutes: number): string => movesWords(minutes, calendars.projectLengths)
const codes = (ids: readonly string[]): string =>
  ids
    .slice(0, 6)
    .map((id) => plans.activity(id)?.code ?? 'new')
    .join(', ') + (ids.length > 6 ? ' …' : '')
const outcome = (seen: Foresight): string =>
  seen.kind === 'refused'
    ? 'cannot be done'
    : seen.moves === 0
      ? 'finish stays'
      : `finish ${moves(seen.moves)}`
</script>

<template>
  <aside class="lens scroll" aria-label="Lens: the finding">
    <p class="soft head">
      {{ check.topic }} · {{ check.title
      }}<span v-if="group && group.count > 1" class="pager"
        ><IconButton :icon="ChevronLeft" label="The finding before" @click="step(-1)" /> {{ at + 1 }} of
        {{ group.count.toLocaleString('en') }}
        <IconButton :icon="ChevronRight" label="The next finding" data-test="next" @click="step(1)"
      /></span>
    </p>
    <h2 data-test="finding">{{ finding.message }}</h2>
    <p v-if="names.length > 0" class="list">
      <template v-for="({ id, code, name }, k) in names" :key="id"
        ><template v-if="k > 0">, </template
        ><ActButton kind="noun" @click="emit('show', [id])">
          {{ finding.activities.length <= 3 ? `${code} ${name}` : code }}
        </ActButton></template
      >
      <template v-if="finding.activities.length > NAMED">
        and {{ finding.activities.length - NAMED }} more</template
      >
    </p>
    <p v-if="finding.activities.length > 0" class="go">
      Show in
      <ActButton kind="noun" data-test="show-network" @click="emit('show', finding.activities, 'ground')">
        Rows and Ground
      </ActButton>
      <ActButton kind="noun" @click="emit('show', finding.activities, 'map')">Map</ActButton>
    </p>
    <section v-if="reopened" class="back">
      <h3>Accepted before, and open again</h3>
      <p>
        “{{ reopened.acceptance.reason }}”, {{ reopened.acceptance.by }}, {{ keptDay(reopened.acceptance) }}.
      </p>
      <p v-for="what in reopened.changed" :key="what" class="signal">{{ what }}</p>
    </section>
    <section>
      <dl class="ladder facts">
        <div v-for="(value, name) in finding.facts" :key="name">
          <dt>{{ name }}</dt>
          <dd>{{ value }}</dd>
        </div>
        <div v-if="check.limit && finding.value !== null && finding.threshold !== null">
          <dt>
            threshold <span class="soft">{{ check.limit.label }}</span>
          </dt>
          <dd>
            <ActButton kind="noun" @click="emit('limits')">
              {{ limitWords(finding.threshold, check.limit) }}</ActButton>, here
            {{ limitWords(finding.value, check.limit) }}
          </dd>
        </div>
        <div class="sum">
          <dt>
            effect <span class="soft">{{ EFFECT_SOURCE[finding.effect.kind] }}</span>
          </dt>
          <dd>{{ effectWords(finding.effect, calendars.projectLengths) }}</dd>
        </div>
      </dl>
    </section>
    <section>
      <h3>Ways to repair it</h3>
      <p v-if="previews === null" class="soft">Trying what each would do …</p>
      <p v-else-if="previews.length === 0" class="soft">
        Nothing that could be done for you: it needs a decision in the network. Repair it there, or accept it
        with a reason.
      </p>
      <RadioChoice
        v-else
        v-model="way"
        class="ways"
        label="Ways to repair it"
        :options="previews.map((p, k) => ({ value: k, label: p.label }))"
      >
        <template #option="{ option }"
          ><span class="option"
            ><span>{{ option.label }}</span
            ><span class="soft right" data-test="outcome">{{
              outcome(previews[option.value]!.foresight)
            }}</span></span
          ></template
        >
      </RadioChoice>
      <template v-if="preview">
        <p v-if="preview.foresight.kind === 'refused'" class="brick">{{ preview.foresight.why }}</p>
        <dl v-if="foreseen" class="ladder" data-test="foresight">
          <div>
            <dt>finish</dt>
            <dd>
              {{
                foreseen.moves === 0
                  ? `stays ${finish(foreseen.finishBefore)}`
                  : `${finish(foreseen.finishBefore)} → ${finish(foreseen.finishAfter)}`
              }}
            </dd>
          </div>
          <div v-if="foreseen.moved > 0">
            <dt>moved or changed</dt>
            <dd>{{ counted(foreseen.moved, 'activity') }}</dd>
          </div>
          <div v-if="foreseen.gainedFloat + foreseen.lostFloat > 0">
            <dt>float</dt>
            <dd>{{ foreseen.gainedFloat }} gain, {{ foreseen.lostFloat }} lose</dd>
          </div>
          <div v-if="foreseen.joinedLongestPath.length > 0">
            <dt>joins the longest path</dt>
            <dd>{{ codes(foreseen.joinedLongestPath) }}</dd>
          </div>
          <div v-if="foreseen.leftLongestPath.length > 0">
            <dt>leaves it</dt>
            <dd>{{ codes(foreseen.leftLongestPath) }}</dd>
          </div>
        </dl>
        <div class="buttons">
          <ActButton kind="primary" :disabled="!foreseen" data-test="apply" @click="apply">Apply</ActButton>
          <ActButton data-test="accept" @click="accepting = !accepting">Accept, because …</ActButton>
        </div>
        <p v-if="preview.alike > 1 && !all">
          <ActButton kind="noun" :disabled="gathering" data-test="gather" @click="gather">
            {{ gathering ? 'Trying all of them …' : `The same for all ${preview.alike} of this kind` }}
          </ActButton>
        </p>
        <div v-if="all" class="all">
          <p>
            <strong>{{ counted(all.repaired, 'repair') }}</strong> in one step<template v-if="allForeseen"
              >: finish
              {{
                allForeseen.moves === 0
                  ? `stays ${finish(allForeseen.finishBefore)}`
                  : `${finish(allForeseen.finishBefore)} → ${finish(allForeseen.finishAfter)}`
              }}</template
            >. <span v-if="all.left > 0" class="soft">{{ all.left }} cannot be repaired so.</span>
          </p>
          <p v-if="all.foresight.kind === 'refused'" class="brick">{{ all.foresight.why }}</p>
          <p v-if="allForeseen?.opens?.length" class="soft">
            New:
            {{
              allForeseen.opens
                .slice(0, 3)
                .map((f) => f.message)
                .join('; ')
            }}
          </p>
          <p>
            <ActButton kind="primary" :disabled="!allForeseen" data-test="apply-all" @click="applyAll"
              >Apply all {{ all.repaired }}</ActButton
            >
          </p>
        </div>
      </template>
      <p v-else-if="previews !== null">
        <ActButton data-test="accept" @click="accepting = !accepting">Accept, because …</ActButton>
      </p>
      <form v-if="accepting" class="reason" @submit.prevent="accept(false)">
        <label>Why it may stand<TextField v-model="reason" :rows="2" data-test="reason" /></label>
        <p class="buttons">
          <ActButton type="submit" kind="primary" data-test="accept-one">Accept it</ActButton
          ><ActButton v-if="group && group.count > 1" @click="accept(true)">All {{ group.count }}</ActButton>
        </p>
        <p class="soft">
          It stays accepted until what it rests on changes; then it comes back and says what is different.
        </p>
      </form>
      <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
    </section>
    <section v-if="foreseen && ((foreseen.closes?.length ?? 0) > 1 || (foreseen.opens?.length ?? 0) > 0)">
      <template v-if="(foreseen.closes?.length ?? 0) > 1">
        <h3>Repairing it also closes</h3>
        <p
          v-for="f in foreseen
            .closes!.filter((c) => c.place !== finding.place || c.check !== finding.check)
            .slice(0, 4)"
          :key="f.fingerprint"
          class="soft"
        >
          {{ f.message }}
        </p>
      </template>
      <template v-if="(foreseen.opens?.length ?? 0) > 0">
        <h3>And would bring</h3>
        <p v-for="f in foreseen.opens!.slice(0, 4)" :key="f.fingerprint" class="signal">{{ f.message }}</p>
      </template>
    </section>
    <section>
      <h3>Why it matters</h3>
      <p class="soft">{{ finding.why ?? check.why }}</p>
      <p v-if="check.bias" class="soft">
        <strong>{{ biasWords(check.bias) }}</strong>: {{ check.bias.because }}.
      </p>
    </section>
  </aside>
</template>

<style scoped>
.lens {
  background: var(--raised);
  border-left: 1px solid var(--hairline);
  padding: 16px;
  display: flex;
  flex-direction: column;
  gap: 9px;
}
.lens section {
  border-top: 1px solid var(--hairline);
  padding-top: 9px;
  display: flex;
  flex-direction: column;
  gap: 6px;
}
.head {
  display: flex;
  justify-content: space-between;
  gap: 8px;
}
.pager {
  white-space: nowrap;
}
.go {
  display: flex;
  gap: 10px;
  color: var(--soft-ink);
}
.back {
  background: var(--wash);
  margin: 0 -16px;
  padding: 9px 16px !important;
}
.ladder {
  margin: 0;
  border-left: 2px solid var(--ink);
  padding-left: 0;
}
.ladder div {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 2px 0 2px 10px;
  position: relative;
}
.ladder div::before {
  content: '';
  position: absolute;
  left: 0;
  top: 12px;
  width: 7px;
  border-top: 2px solid var(--ink);
}
.ladder dt {
  min-width: 0;
}
.ladder dt .soft {
  display: block;
  font-size: 12px;
  line-height: 1.25;
}
.ladder dd {
  margin: 0;
  text-align: right;
}
.ladder .sum dd {
  font-weight: 650;
  white-space: nowrap;
}
.ways .on {
  font-weight: 650;
}
.ways .right {
  font-weight: 400;
  white-space: nowrap;
}
.buttons {
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
}
.reason label {
  display: flex;
  flex-direction: column;
  gap: 3px;
  color: var(--soft-ink);
  font-size: 12.5px;
}
.reason,
.all {
  display: flex;
  flex-direction: column;
  gap: 6px;
}
.ways .option {
  display: flex;
  justify-content: space-between;
  gap: 10px;
}
</style>
