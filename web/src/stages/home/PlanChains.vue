<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'
import { instantOf, instantWords, type FactsOfPlan, type PlanSummary } from '@geodrome/core'
import FactTable from '../../controls/FactTable.vue'
import FeverGround from '../../controls/FeverGround.vue'
import SaveAs from '../../controls/SaveAs.vue'

/** Every plan with an agreed critical chain in one fever picture, what needs somebody today first. */
const props = defineProps<{
  plans: readonly { readonly plan: PlanSummary; readonly chain: NonNullable<FactsOfPlan['chain']> }[]
}>()
const RANK = { act: 0, plan: 1, leave: 2 } as const
const SAYS = { act: 'act', plan: 'plan what to do', leave: 'leave it alone' } as const
const known = computed(() =>
  props.plans
    .flatMap(({ plan, chain }) => ('problem' in chain ? [] : [{ plan, chain }]))
    .sort(
      (a, b) =>
        RANK[a.chain.says] - RANK[b.chain.says] ||
        b.chain.consumption - a.chain.consumption ||
        (a.plan.id < b.plan.id ? -1 : 1),
    ),
)
const unknown = computed(() =>
  props.plans.flatMap(({ plan, chain }) => ('problem' in chain ? [{ plan, why: chain.problem }] : [])),
)
const called = ({ code, name }: PlanSummary): string => code || name || 'a plan without a name'
const percent = (share: number): string => `${Math.round(100 * share)} %`
/** The areas are those of the first plan; where another plan has others, the word beside it is by its own. */
const thresholds = computed(() => known.value[0]!.chain.thresholds as [number, number][])
const haveOthers = computed(() =>
  known.value.some(({ chain }) => JSON.stringify(chain.thresholds) !== JSON.stringify(thresholds.value)),
)
const label = computed(
  () =>
    `Used over done, by plan. ${known.value.map(({ plan, chain }) => `${called(plan)}: ${percent(chain.progress)} done, ${percent(chain.consumption)} used`).join('; ')}`,
)
const day = (date: string): string =>
  instantWords(instantOf(date, 'finish'), 'finish', { time: false, year: true })
const picture = useTemplateRef<HTMLElement>('picture')
</script>

<template>
  <section class="chains" aria-label="Critical chains" data-test="plan-chains">
    <h2>
      Critical chains
      <RouterLink class="noun lead" to="/stagger">Stagger plans at a resource</RouterLink>
    </h2>
    <div v-if="known.length > 0" class="beside">
      <div ref="picture" class="picture">
        <FeverGround v-slot="{ x, y, width }" :thresholds="thresholds" :label="label">
          <g v-for="({ plan, chain }, k) in known" :key="plan.id">
            <circle class="dot" :cx="x(chain.progress)" :cy="y(chain.consumption)" r="5" />
            <text
              class="called"
              :x="x(chain.progress) > width - 80 ? x(chain.progress) - 8 : x(chain.progress) + 8"
              :y="y(chain.consumption) + (k % 2 === 0 ? -5 : 13)"
              :text-anchor="x(chain.progress) > width - 80 ? 'end' : 'start'"
            >
              {{ called(plan) }}
            </text>
          </g>
        </FeverGround>
        <SaveAs name="Chains of all plans" :drawing="() => picture" />
      </div>
      <FactTable name="Chains of all plans">
        <thead>
          <tr>
            <th>Plan</th>
            <th class="right">Used</th>
            <th class="right">Done</th>
            <th>Its buffer says</th>
            <th>Promised</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="{ plan, chain } in known" :key="plan.id">
            <td>
              <RouterLink class="noun" :to="{ name: 'forecast', params: { id: plan.id, part: 'chain' } }">{{
                plan.name || called(plan)
              }}</RouterLink>
            </td>
            <td class="right">{{ percent(chain.consumption) }}</td>
            <td class="right">{{ percent(chain.progress) }}</td>
            <td>
              <strong>{{ SAYS[chain.says] }}</strong><span
                v-if="chain.act > (chain.says === 'act' ? 1 : 0)"
                class="soft"
                >; {{ chain.act }} {{ chain.act === 1 ? 'buffer says' : 'buffers say' }} act</span
              >
            </td>
            <td :data-iso="chain.promised">{{ day(chain.promised) }}</td>
          </tr>
        </tbody>
      </FactTable>
    </div>
    <p v-if="haveOthers" class="soft">
      The areas are by the thresholds of {{ called(known[0]!.plan) }}; what a buffer says is by its own
      plan’s.
    </p>
    <p v-for="{ plan, why } in unknown" :key="plan.id" class="soft">
      {{ called(plan) }}: where its chain stands cannot be said, {{ why }}
    </p>
  </section>
</template>

<style scoped>
/* Below what begins a plan. */
.chains {
  order: 1;
}
.beside {
  display: grid;
  grid-template-columns: 330px minmax(0, 1fr);
  gap: 28px;
  align-items: start;
  margin-top: 8px;
}
.called {
  font-size: 10.5px;
  font-weight: 600;
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 3px;
}
.dot {
  fill: var(--ink);
  stroke: var(--paper);
  stroke-width: 1;
}
:deep(th.right) {
  text-align: right;
}
.lead {
  margin-left: 12px;
  font-size: 13.5px;
  font-weight: 600;
}
</style>
