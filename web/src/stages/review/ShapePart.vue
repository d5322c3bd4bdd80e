<script setup lang="ts">
import ActButton from '../../controls/ActButton.vue'
import { shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { counted, instantWords, type NetworkShape } from '@geodrome/core'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useReviewStore } from '../../stores/reviewStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'

defineProps<{ calendars: CalendarLookup }>()
const plans = usePlanStore()
const store = useReviewStore()
const ui = useUiStore()
const router = useRouter()
const route = useRoute()
const shape = shallowRef<NetworkShape | null>(null)
watch(
  () => store.view?.version,
  async () => (shape.value = await store.ask<'shape'>({ kind: 'shape' })),
  { immediate: true },
)

const code = (id: string): string => plans.activity(id)?.code ?? id
const show = async (ids: readonly string[], reason: string): Promise<void> => {
  ui.filter = ids.length > 1 ? { ids: new Set(ids), reason } : null
  ui.thread = { message: `Shape of the network: ${reason}`, check: 'shape', places: ids }
  await router.push({ name: 'network', params: { id: route.params.id as string } })
  ui.select(ids[0]!, { show: true })
}
const toImplied = (): void => {
  store.chosen = { check: 'implied-link', fingerprint: '' }
  void router.push({ name: 'review', params: { ...route.params, part: '' } })
}
const WIDEST = 12
</script>

<template>
  <template v-if="shape">
    <h1>
      {{ shape.complexity.number <= shape.complexity.activities / 2 ? 'A lean network' : 'A dense network' }}:
      complexity {{ shape.complexity.number }} on {{ counted(shape.complexity.activities, 'activity') }}.
    </h1>
    <p class="soft">
      Links − activities + 2 × separate parts, without redundant links and hammocks:
      {{ shape.complexity.links }} − {{ shape.complexity.activities }} + 2 × {{ shape.complexity.parts }}.
      Each link beyond the least that holds a part together adds one.
    </p>
    <dl class="figures">
      <div>
        <dt>Separate parts</dt>
        <dd>{{ shape.complexity.parts }}</dd>
        <dd class="means">
          {{
            shape.complexity.parts <= 1
              ? 'All of it hangs together: what happens anywhere can be followed everywhere.'
              : 'Parts that no link ties cannot delay each other in a forecast, whatever happens on site.'
          }}
        </dd>
      </div>
      <div>
        <dt>Links for each activity</dt>
        <dd>{{ shape.linksPerActivity.toFixed(2) }}</dd>
        <dd class="means">
          {{
            shape.linksPerActivity < 1.2
              ? 'Few: much of the work follows from one predecessor only, and the forecast sees few meetings.'
              : shape.linksPerActivity > 3
                ? 'Many: look for links that are habits, since each adds a way to be late.'
                : 'Usual for work that is handed over between trades.'
          }}
        </dd>
      </div>
      <div>
        <dt>Implied links</dt>
        <dd>{{ shape.complexity.implied.length }}</dd>
        <dd class="means">
          They change no date and no forecast, but hide what decides.
          <ActButton kind="noun" v-if="shape.complexity.implied.length > 0" @click="toImplied">
            Remove or accept them
          </ActButton>
        </dd>
      </div>
      <div>
        <dt>Longest chain</dt>
        <dd>{{ shape.longestChain.length }}</dd>
        <dd class="means">
          Activities one behind the other, from
          {{ shape.longestChain[0] ? code(shape.longestChain[0]) : '–' }} to
          {{ shape.longestChain.length ? code(shape.longestChain.at(-1)!) : '–' }}: so many hand-overs can go
          wrong in a row.
          <ActButton
            kind="noun"
            v-if="shape.longestChain.length > 1"
            @click="show(shape.longestChain, 'the longest chain')"
          >
            Show it
          </ActButton>
        </dd>
      </div>
      <div>
        <dt>Under way at once, by the clock</dt>
        <dd>
          {{ shape.meanParallel.toFixed(1) }}<small> on average, {{ shape.mostParallel }} at most</small>
        </dd>
        <dd class="means">
          <template v-if="shape.mostParallelAt !== null"
            >Most from {{ instantWords(shape.mostParallelAt, 'start') }}. </template
          >{{
            shape.meanParallel > 3
              ? 'Many parallel paths near in length make the finish later than any of them says alone.'
              : 'Mostly one thing after another: delays add up rather than meet.'
          }}
        </dd>
      </div>
    </dl>
    <h2 class="merges">Where paths meet</h2>
    <p class="soft">
      With more paths into an activity, the latest of them is later: the risk of merge bias, which PERT leaves
      out and simulation shows.
    </p>
    <p v-if="shape.mergePoints.length === 0">Nothing waits for three or more.</p>
    <ol class="meet">
      <li v-for="{ activity, into } in shape.mergePoints.slice(0, WIDEST)" :key="activity">
        <svg
          :viewBox="`0 0 60 ${Math.max(14, into * 4)}`"
          :style="{ height: `${Math.max(14, into * 4)}px` }"
          aria-hidden="true"
        >
          <path
            v-for="k in into"
            :key="k"
            :d="`M0 ${(k - 0.5) * (Math.max(14, into * 4) / into)} C34 ${(k - 0.5) * (Math.max(14, into * 4) / into)} 26 ${Math.max(14, into * 4) / 2} 54 ${Math.max(14, into * 4) / 2}`"
          />
          <circle cx="55" :cy="Math.max(14, into * 4) / 2" r="3" />
        </svg>
        <strong>{{ into }}</strong> into
        <ActButton kind="noun" @click="show([activity], `where ${into} paths meet`)">
          {{ code(activity) }}
        </ActButton>
        {{ plans.activity(activity)?.name }}
      </li>
    </ol>
    <p v-if="shape.mergePoints.length > WIDEST" class="soft">
      and {{ shape.mergePoints.length - WIDEST }} more with three or more
    </p>
  </template>
</template>

<style scoped>
.figures {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(210px, 1fr));
  gap: 18px 24px;
  margin: 16px 0;
}
.figures div {
  border-top: 1.5px solid var(--ink);
  padding-top: 6px;
}
dt {
  color: var(--soft-ink);
  font-size: 12px;
}
dd {
  margin: 0;
  font:
    650 26px/1.2 'Bricolage Grotesque Variable',
    sans-serif;
}
dd small {
  font:
    400 13px 'Instrument Sans Variable',
    sans-serif;
  color: var(--soft-ink);
}
.merges {
  margin-top: 20px;
}
.meet {
  list-style: none;
  margin: 10px 0 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(300px, 1fr));
  gap: 6px 18px;
}
.meet li {
  display: flex;
  gap: 8px;
  align-items: center;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.meet svg {
  width: 60px;
  flex: none;
}
.meet path {
  fill: none;
  stroke: var(--fjord);
  stroke-width: 1.4;
}
.meet circle {
  fill: var(--ink);
}
dd.means {
  font: inherit;
}
</style>
