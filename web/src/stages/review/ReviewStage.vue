<script setup lang="ts">
import { usePart } from '../../composables/usePart.ts'
import PartTabs from '../../controls/PartTabs.vue'
import { optionsOf } from '../../controls/options.ts'
import ActButton from '../../controls/ActButton.vue'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import {
  biasWords,
  checkOf,
  CHECKS,
  counted,
  PlanError,
  PRESETS,
  verdictsOf,
  type Preset,
} from '@geodrome/core'
import { useCalendars } from '../../composables/useCalendars.ts'
import FootLine from '../../frame/FootLine.vue'
import { usePlanStore } from '../../stores/planStore.ts'
import { useReviewStore } from '../../stores/reviewStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import FindingLens from './FindingLens.vue'
import FindingsSheet from './FindingsSheet.vue'
import IntegrityPart from './IntegrityPart.vue'
import { keptDay } from './keptDay.ts'
import LimitsPart from './LimitsPart.vue'
import NudgePart from './NudgePart.vue'
import PointsPart from './PointsPart.vue'
import RecordPart from './RecordPart.vue'
import RevisionsPart from './RevisionsPart.vue'
import ShapePart from './ShapePart.vue'

const PARTS = [
  ['findings', 'Findings'],
  ['integrity', 'Path integrity'],
  ['nudge', 'Nudge test'],
  ['points', '14 points'],
  ['shape', 'Network shape'],
  ['revisions', 'Revisions'],
  ['limits', 'Thresholds'],
  ['record', 'Record'],
] as const

const plans = usePlanStore()
const store = useReviewStore()
const ui = useUiStore()
const router = useRouter()
const route = useRoute()
const calendars = useCalendars(() => plans.plan)

const { part, go } = usePart('review', PARTS, 'findings')

/** The finding in the Lens: the chosen one; when it is gone, the weightiest. */
const finding = computed(() => {
  const groups = store.view?.groups ?? []
  const all = groups.flatMap((g) => g.findings)
  const { chosen } = store
  return (
    all.find((f) => f.fingerprint === chosen?.fingerprint) ??
    all.find((f) => f.check === chosen?.check) ??
    all[0]
  )
})
watch(
  finding,
  (f) => {
    if (f && f.fingerprint !== store.chosen?.fingerprint)
      store.chosen = { check: f.check, fingerprint: f.fingerprint }
  },
  { immediate: true },
)

const movers = computed(() => store.view?.movers ?? 0)
const title = computed(() => {
  if (!store.view) return 'Reviewing the network …'
  if (plans.plan!.activities.length === 0) return 'There is no network to review yet.'
  if (movers.value > 0)
    return `${movers.value === 1 ? 'One finding moves' : `${movers.value.toLocaleString('en')} findings move`} the answer. Repair ${movers.value === 1 ? 'it' : 'those'} before forecasting.`
  return store.open > 0
    ? 'Nothing found moves the answer; some of it is worth knowing.'
    : 'Nothing found: this network can be forecast.'
})
const verdicts = computed(() =>
  store.view && plans.plan ? verdictsOf(plans.plan, store.view) : { clean: [], untested: [] },
)
const untested = computed(() => verdicts.value.untested.reduce((sum, { checks }) => sum + checks.length, 0))
const kept = computed(() => plans.plan!.reviews.at(-1))
const keptOpen = computed(() => Object.values(kept.value?.counts ?? {}).reduce((sum, n) => sum + n, 0))
const VERDICT = {
  fit: 'Fit to forecast',
  'with care': 'Forecast with care',
  'not fit': 'Not fit to forecast',
} as const

const problem = ref('')
const keep = async (): Promise<void> => {
  try {
    await store.keep('')
    problem.value = ''
  } catch (error) {
    if (!(error instanceof PlanError)) throw error
    problem.value = error.issues[0]!.message
  }
}

/** To the place in the network, with the finding named there and a way back. */
const show = async (ids: readonly string[], pane?: 'ground' | 'map'): Promise<void> => {
  const f = finding.value
  if (!f || ids.length === 0) return
  if (pane) ui.pane = pane
  ui.filter = ids.length > 1 ? { ids: new Set(ids), reason: checkOf(f.check)!.title.toLowerCase() } : null
  ui.thread = { message: f.message, check: f.check, places: f.activities }
  await router.push({ name: 'network', params: { id: route.params.id as string } })
  ui.select(ids[0]!, { show: true })
}
const setPreset = (preset: Preset): void => {
  plans.edit({
    kind: 'project',
    set: {
      review: { ...plans.plan!.project.review, preset, limits: plans.plan!.project.review?.limits ?? {} },
    },
  })
}
const preset = computed(() => plans.plan!.project.review?.preset ?? 'house')
</script>

<template>
  <div class="review" :class="{ wide: part !== 'findings' || !finding }">
    <section class="sheet scroll">
      <PartTabs
        class="parts"
        label="Parts of the review"
        :model-value="part"
        :parts="optionsOf(PARTS)"
        @update:model-value="go"
      />
      <template v-if="part === 'findings'">
        <h1 data-test="review-title">{{ title }}</h1>
        <p v-if="store.view" class="soft">
          {{ CHECKS.length }} checks: {{ verdicts.clean.length }} clean<template v-if="untested > 0"
            >, {{ untested }} not tested</template
          >, {{ store.view.groups.length }} with open findings ({{
            store.open.toLocaleString('en')
          }})<template v-if="store.view.acceptedCount > 0"
            >, {{ counted(store.view.acceptedCount, 'finding') }} accepted with a reason</template
          >. <template v-if="kept">Review of {{ keptDay(kept) }}: {{ keptOpen }} open. </template
          ><ActButton kind="noun" v-if="plans.whyNotPlan === ''" data-test="keep" @click="keep">
            Save this review
          </ActButton>
        </p>
        <p
          v-if="store.view?.pass && store.view.pass.gone.length + store.view.pass.appeared.length > 0"
          class="pass"
          role="status"
          data-test="pass"
        >
          The last change
          <template v-if="store.view.pass.gone.length > 0"
            >closed {{ store.view.pass.gone.length }}:
            <span class="soft"
              >{{ store.view.pass.gone.slice(0, 2).join('; ')
              }}{{ store.view.pass.gone.length > 2 ? ' …' : '' }}</span
            ></template
          ><template v-if="store.view.pass.gone.length > 0 && store.view.pass.appeared.length > 0"
            >, and </template
          ><template v-if="store.view.pass.appeared.length > 0"
            >brought {{ store.view.pass.appeared.length }}:
            <span class="signal"
              >{{ store.view.pass.appeared.slice(0, 2).join('; ')
              }}{{ store.view.pass.appeared.length > 2 ? ' …' : '' }}</span
            ></template
          >
        </p>
        <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
        <FindingsSheet
          v-if="store.view && calendars && plans.plan!.activities.length > 0"
          :calendars="calendars"
          @show="finding && show(finding.activities)"
        />
      </template>
      <template v-else-if="calendars">
        <IntegrityPart v-if="part === 'integrity'" :calendars="calendars" @show="show([$event])" />
        <NudgePart v-else-if="part === 'nudge'" :calendars="calendars" @show="show([$event])" />
        <PointsPart v-else-if="part === 'points'" />
        <ShapePart v-else-if="part === 'shape'" :calendars="calendars" />
        <RevisionsPart v-else-if="part === 'revisions'" :calendars="calendars" />
        <LimitsPart v-else-if="part === 'limits'" />
        <RecordPart v-else :calendars="calendars" />
      </template>
    </section>
    <FindingLens
      v-if="part === 'findings' && finding && calendars"
      :finding="finding"
      :calendars="calendars"
      @show="show"
      @limits="go('limits')"
    />
  </div>
  <FootLine>
    <span class="presets" role="group" aria-label="Thresholds in force"
      >Thresholds:
      <template v-for="(p, k) in PRESETS" :key="p"
        ><template v-if="k > 0"> · </template
        ><ActButton kind="bare" class="preset" :aria-pressed="preset === p" @click="setPreset(p)">
          {{ p }}
        </ActButton></template
      ></span
    >
    <ActButton
      kind="bare"
      v-if="store.view"
      class="fit"
      :title="
        store.view.fitness.distortions.map((d) => `${biasWords(d.bias)}: ${d.title.toLowerCase()}`).join('\n')
      "
      data-test="fitness"
      @click="go('record')"
    >
      {{ VERDICT[store.view.fitness.verdict] }}
    </ActButton>
    <span v-if="store.view"
      >Reviewed after every edit<template v-if="store.view.unmeasured > 0">
        · {{ store.view.unmeasured }} effects being measured</template
      ></span
    >
  </FootLine>
</template>

<style scoped>
.review {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 336px;
}
.review.wide {
  grid-template-columns: minmax(0, 1fr);
}
.sheet {
  padding: 10px 18px 30px;
}
.parts {
  margin-bottom: 12px;
}
.pass {
  margin-top: 6px;
  padding: 5px 10px;
  border-left: 3px solid var(--signal);
  background: var(--wash);
}
.presets {
  display: inline-flex;
  gap: 5px;
}
.preset {
  border-bottom: 1.5px dotted var(--line);
}
.preset[aria-pressed='true'] {
  font-weight: 650;
  color: var(--ink);
  border-bottom: 2px solid var(--ink);
}
.fit {
  border-bottom: 1.5px dotted var(--ink);
}
@media (max-width: 1100px) {
  .review {
    grid-template-columns: minmax(0, 1fr) 290px;
  }
}
@media print {
  .review {
    display: block;
  }
  .parts {
    display: none;
  }
  .sheet {
    overflow: visible;
    padding: 0;
  }
}
</style>
