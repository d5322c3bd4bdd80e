<script setup lang="ts">
import MenuButton from '../../controls/MenuButton.vue'
import SaveAs from '../../controls/SaveAs.vue'
import { ZoomIn, ZoomOut } from '@lucide/vue'
import ActButton from '../../controls/ActButton.vue'
import IconButton from '../../controls/IconButton.vue'
import TextField from '../../controls/TextField.vue'
import { useVirtualizer } from '@tanstack/vue-virtual'
import { useElementSize } from '@vueuse/core'
import { computed, defineAsyncComponent, nextTick, ref, watch } from 'vue'
import { instantOf, ROW_HEIGHT, groundSvg, pinsOf } from '@geodrome/core'
import { useCalendars } from '../../composables/useCalendars.ts'
import { useQuestion } from '../../composables/useQuestion.ts'
import { useListCommands } from '../../panes/rows/useListCommands.ts'
import { useTimeScale } from '../../composables/useTimeScale.ts'
import FootLine from '../../frame/FootLine.vue'
import PaneSplitter from '../../frame/PaneSplitter.vue'
import { byKeys, useCommands } from '../../commands/registry.ts'
import GroundPane from '../../panes/ground/GroundPane.vue'
import TimeRuler from '../../panes/ground/TimeRuler.vue'
import { useGroundMoves } from '../../panes/ground/useGroundMoves.ts'
import { useGroundZoom } from '../../panes/ground/useGroundZoom.ts'
import ReplayThread from './ReplayThread.vue'
import ReviewThread from './ReviewThread.vue'
import { usePaneWidths } from './usePaneWidths.ts'
import ActivityLens from '../../panes/lens/ActivityLens.vue'
import RowsPane from '../../panes/rows/RowsPane.vue'
import PastePanel from '../../panes/lists/PastePanel.vue'
import EntryLine from '../../panes/rows/EntryLine.vue'
import BreakDownPanel from '../../panes/rows/BreakDownPanel.vue'
import GroupMovePanel from '../../panes/rows/GroupMovePanel.vue'
import RecodePanel from '../../panes/rows/RecodePanel.vue'
import RowsHead from '../../panes/rows/RowsHead.vue'
import ViewPanel from '../../panes/rows/ViewPanel.vue'
import { cellContext, columnsThatFit, type CellContext } from '../../panes/rows/columns.ts'
import { groupsAround } from '../../panes/rows/foldLevel.ts'
import { useListStore } from '../../panes/rows/listStore.ts'
import { selectionWords } from '../../panes/rows/selectionWords.ts'
import { useShownRows } from '../../panes/rows/useShownRows.ts'
import { useForecastStore } from '../../stores/forecastStore.ts'
import { later } from '../../stores/painted.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'

/** The diagrams come with a library of their own, and only when they are looked at. */
const MapPane = defineAsyncComponent(() => import('../../panes/map/MapPane.vue'))
const ArrowPane = defineAsyncComponent(() => import('../../panes/map/ArrowPane.vue'))
const PANES = [
  ['ground', 'Ground'],
  ['map', 'Map'],
  ['arrows', 'Arrow map'],
] as const

const plans = usePlanStore()
const forecast = useForecastStore()
const ui = useUiStore()
const list = useListStore()
const { commands } = useListCommands()
const calendars = useCalendars(() => plans.viewPlan)

const body = ref<HTMLElement | null>(null)
const { rowsWidth, lensWidth, rowsFolded, listWidth } = usePaneWidths(body)
const columns = computed(() => columnsThatFit(list.columns, listWidth.value))
const hiddenColumns = computed(() =>
  list.columns.filter((c) => !columns.value.includes(c)).map((c) => c.title),
)

const { answer: done } = useQuestion('done', () =>
  columns.value.some(({ id }) => id === 'done') ? {} : null,
)
const context = computed((): CellContext =>
  cellContext(plans.viewPlan!, plans.view!, calendars.value!, ui.allTimes, done.value),
)
const { filter, keeps, model } = useShownRows(context)

const scroller = ref<HTMLElement | null>(null)
const groundColumn = ref<HTMLElement | null>(null)
const { width: groundWidth } = useElementSize(groundColumn)
const { height: scrollerHeight } = useElementSize(scroller)
const virtualizer = useVirtualizer(
  computed(() => ({
    count: model.value.rows.length,
    getScrollElement: () => scroller.value,
    estimateSize: () => ROW_HEIGHT,
    overscan: 8,
  })),
)
const window_ = computed(() =>
  virtualizer.value.getVirtualItems().map(({ index, start }) => ({ index, start })),
)
const totalHeight = computed(() => virtualizer.value.getTotalSize())

const pins = computed(() =>
  plans.viewPlan && plans.view
    ? pinsOf(plans.viewPlan, plans.view.projectFinish, forecast.latestResult?.percentiles['80'] ?? null)
    : [],
)
const scale = useTimeScale(() => {
  if (!plans.view) return null
  const replayed = forecast.replay ? [instantOf(forecast.replay.at.finish, 'finish')] : []
  return [
    plans.view.projectStart,
    Math.max(plans.view.projectFinish, ...pins.value.map((pin) => pin.at), ...replayed),
  ]
})
watch(groundWidth, (width) => (scale.width.value = Math.max(60, width)), { immediate: true })
/** An iteration that is looked at is seen whole. */
watch(
  () => forecast.replay !== null && plans.view !== null && scale.width.value > 100,
  (isLooked) => isLooked && scale.fitAll(),
  { immediate: true },
)

/** Activities in view, by position. */
const inView = (): number[] =>
  window_.value.flatMap(({ index }) => {
    const row = model.value.rows[index]
    return row?.kind === 'activity' ? [row.index] : []
  })
const { zoomOptions, zoomTo, zoomBy } = useGroundZoom(
  scale,
  inView,
  () => pins.value.find((pin) => pin.id === 'status')?.at,
)
/** All rows, not only those in view. */
const asSvg = (): string =>
  groundSvg(model.value, context.value, pins.value, ui.tokens, { perDay: Math.max(3, scale.perDay.value) })

const scrollTo = (row: number): void => virtualizer.value.scrollToIndex(row, { align: 'auto' })
/** Brings the selected activity into view, rows and time. */
watch(
  () => [ui.reveal, plans.view !== null] as const,
  async () => {
    if (ui.focus === null) return
    const activity = plans.activity(ui.focus)
    const around = new Set(groupsAround(plans.viewPlan!.groups, activity?.group ?? null))
    if ([...around].some((id) => ui.collapsed.has(id)))
      ui.collapsed = new Set([...ui.collapsed].filter((id) => !around.has(id)))
    await nextTick()
    const row = model.value.position.get(ui.focus)
    const i = plans.byId.get(ui.focus)
    if (row !== undefined) virtualizer.value.scrollToIndex(row, { align: 'auto' })
    if (i !== undefined && plans.view) scale.reveal(plans.view.start[i]!, plans.view.finish[i]!)
  },
  { immediate: true },
)

/** What is selected is not lost from sight when an edit moves it. */
watch(
  () => {
    const i = ui.focus === null ? undefined : plans.byId.get(ui.focus)
    return i === undefined || !plans.view
      ? null
      : ([ui.focus, plans.view.start[i]!, plans.view.finish[i]!] as const)
  },
  (now, before) => {
    if (now && before && now[0] === before[0] && (now[1] !== before[1] || now[2] !== before[2]))
      scale.reveal(now[1], now[2])
  },
)

const { onWheel, onPress } = useGroundMoves(scale, scroller)
const findBox = ref<InstanceType<typeof TextField> | null>(null)
useCommands(() => [
  ...commands.value,
  byKeys('On the Ground', 'ground-earlier', ['Shift ←'], 'Earlier', () => scale.pan(-120)),
  byKeys('On the Ground', 'ground-later', ['Shift →'], 'Later', () => scale.pan(120)),
  byKeys('On the Ground', 'ground-in', ['Alt +', 'Alt =', '+', '='], 'Zoom in', () => zoomBy(1.4)),
  byKeys('On the Ground', 'ground-out', ['Alt −', '−'], 'Zoom out', () => zoomBy(1 / 1.4)),
  byKeys('On the Ground', 'ground-fit', ['Alt 0', '0'], 'Fit the whole plan', () => scale.fitAll()),
  byKeys('In the list', 'find', ['Alt F', 'F'], 'Find in the list', () => findBox.value?.focus()),
])

const selected = computed(() => {
  const { viewPlan } = plans
  if (!viewPlan || !calendars.value) return ''
  const chosen = ui.selection.flatMap((id) => plans.activity(id) ?? [])
  return selectionWords(chosen, viewPlan.project.currency, calendars.value.projectLengths)
})
const listed = later(() => plans.viewPlan?.activities)
const unconfirmed = computed(() => listed.value?.filter((a) => a.kind === 'work' && !a.confirmed).length ?? 0)
const clearFilter = (): void => {
  ui.filter = null
  ui.search = ''
  if (list.view.conditions.length > 0) list.set({ conditions: [] })
}
const isFiltered = computed(() => ui.filter !== null || ui.search !== '' || list.view.conditions.length > 0)
/** Text pasted into the list, until it is taken or left. */
const pasted = ref<string | null>(null)
const rowsPane = ref<{ focus(): void } | null>(null)
</script>

<template>
  <div v-if="plans.viewPlan && plans.view && calendars" ref="body" class="network">
    <ReviewThread v-if="ui.thread" />
    <ReplayThread v-if="forecast.replay" />
    <div class="heads">
      <div class="list-head" :style="{ width: `${listWidth}px` }">
        <template v-if="!rowsFolded">
          <div class="tools">
            <TextField
              ref="findBox"
              v-model="ui.search"
              class="find"
              label="Find in the list"
              placeholder="Find"
              @keydown.esc="clearFilter"
            />
            <span class="soft shown" role="status"
              >{{ model.shown }} of {{ model.total
              }}<template v-if="hiddenColumns.length === 0"> shown</template
              ><template v-if="ui.filter">, {{ ui.filter.reason }}</template
              ><template v-if="hiddenColumns.length > 0">
                ·
                <span :title="hiddenColumns.join(', ')">{{
                  hiddenColumns.length === 1
                    ? `${hiddenColumns[0]} hidden`
                    : `${hiddenColumns.length} columns hidden`
                }}</span></template
              ></span
            >
            <ActButton kind="noun" v-if="isFiltered" @click="clearFilter">Show all</ActButton>
            <ActButton class="view" :aria-expanded="list.panelOpen" @click="list.panelOpen = !list.panelOpen">
              {{ list.view.name }}<template v-if="list.isChanged">*</template> ▾
            </ActButton>
          </div>
          <RowsHead :columns="columns" />
        </template>
      </div>
      <div class="ruler-box"><TimeRuler :scale="scale" :pins="pins" :context="context" /></div>
      <div class="lens-gap" :style="{ width: `${lensWidth}px` }" />
    </div>
    <div class="panes" :class="{ folded: rowsFolded }">
      <ViewPanel
        v-if="list.panelOpen && !rowsFolded"
        :context="context"
        :filter="filter"
        :style="{ left: `${listWidth}px` }"
      />
      <div ref="scroller" class="scroller scroll" :style="{ right: `${lensWidth}px` }" tabindex="-1">
        <div class="sheet" :style="{ height: `${totalHeight}px` }">
          <div v-show="!rowsFolded" class="list" :style="{ width: `${listWidth}px` }">
            <RowsPane
              v-if="!rowsFolded"
              ref="rowsPane"
              :columns="columns"
              :model="model"
              :window="window_"
              :context="context"
              @scroll-to="scrollTo"
              @paste="pasted = $event"
            />
          </div>
          <div ref="groundColumn" class="ground-column" @wheel="onWheel" @pointerdown="onPress">
            <GroundPane
              :model="model"
              :window="window_"
              :context="context"
              :scale="scale"
              :pins="pins"
              :height="Math.max(0, scrollerHeight)"
              :name-on-bars="rowsFolded"
            />
          </div>
        </div>
        <p v-if="model.rows.length === 0" class="empty" :style="{ maxWidth: `${listWidth - 48}px` }">
          <template v-if="keeps"
            >Nothing of this plan is shown: {{ ui.filter?.reason ?? `no activity fits “${ui.search}”` }}.
            <ActButton kind="noun" @click="clearFilter">Show all</ActButton></template
          >
          <template v-else
            >No activities yet. Type the first one in the line below: its name, how long it takes, what it
            waits for; or paste a block from a spreadsheet into it.</template
          >
        </p>
      </div>
      <div
        v-if="ui.pane !== 'ground'"
        class="diagram"
        :style="{ left: `${listWidth}px`, right: `${lensWidth}px` }"
      >
        <MapPane v-if="ui.pane === 'map'" :context="context" :keeps="keeps" />
        <ArrowPane v-else :context="context" :keeps="keeps" />
      </div>
      <PaneSplitter
        v-if="!rowsFolded"
        v-model="rowsWidth"
        label="Width of the list"
        :min="240"
        :max="1200"
        :style="{ left: `${listWidth}px` }"
      />
      <PaneSplitter
        v-model="lensWidth"
        label="Width of the Lens"
        :min="240"
        :max="520"
        invert
        :style="{ right: `${lensWidth - 12}px`, left: 'auto' }"
      />
      <EntryLine
        v-if="!rowsFolded"
        class="entry-box"
        :style="{ width: `${listWidth}px` }"
        @leave="rowsPane?.focus()"
        @paste="pasted = $event"
      />
      <RecodePanel v-if="list.recodeOpen" />
      <GroupMovePanel v-if="list.groupMove" v-bind="list.groupMove" />
      <BreakDownPanel v-if="list.breaking !== null" :key="list.breaking" :activity="list.breaking" />
      <PastePanel v-if="pasted !== null" :text="pasted" @close="pasted = null" />
      <div class="lens-box" :style="{ width: `${lensWidth}px` }"><ActivityLens /></div>
    </div>
    <FootLine>
      <span class="fact"
        >{{ plans.viewPlan.activities.length }} activities · {{ plans.viewPlan.links.length }} links</span
      >
      <span v-if="unconfirmed > 0" class="fact signal"
        >{{ unconfirmed }} duration{{ unconfirmed === 1 ? '' : 's' }} not confirmed</span
      >
      <span v-if="selected" class="fact">{{ selected }}</span>
      <span class="zoom">
        <ActButton kind="bare" :aria-pressed="rowsFolded" @click="rowsFolded = !rowsFolded">
          {{ rowsFolded ? 'Unfold list' : 'Fold list' }}
        </ActButton>
        <span class="panes-of" role="group" aria-label="What stands beside the list">
          <ActButton
            kind="bare"
            v-for="[id, label] in PANES"
            :key="id"
            class="pane"
            :aria-pressed="ui.pane === id"
            @click="ui.pane = id"
          >
            {{ label }}
          </ActButton>
        </span>
        <template v-if="ui.pane === 'ground'">
          <MenuButton class="zoomer" label="Zoom of the Ground" :options="zoomOptions" @choose="zoomTo"
            >Zoom</MenuButton
          >
          <IconButton :icon="ZoomOut" label="Zoom out" @click="zoomBy(1 / 1.4)" />
          <ActButton kind="bare" @click="scale.fitAll()">Fit</ActButton>
          <IconButton :icon="ZoomIn" label="Zoom in" @click="zoomBy(1.4)" />
          <SaveAs name="Ground" :drawing="asSvg" />
        </template>
      </span>
    </FootLine>
  </div>
</template>

<style scoped>
.network {
  display: flex;
  flex-direction: column;
  flex: 1;
  min-height: 0;
  position: relative;
}
.heads {
  display: flex;
  height: 84px;
  border-bottom: 1px solid var(--hairline);
  flex: none;
}
.list-head {
  display: flex;
  flex-direction: column;
  flex: none;
  background: var(--paper);
  overflow: hidden;
}
.tools {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 10px 10px 8px;
  flex: 1;
  white-space: nowrap;
}
/* What is hidden is said in full: on up to three lines where the list is narrow. */
.shown {
  flex: 0 1 auto;
  min-width: 0;
  white-space: normal;
  font-size: 12.5px;
  line-height: 1.15;
  max-height: 44px;
  overflow: hidden;
}
.find {
  flex: 0 10 150px;
  min-width: 84px;
}
.ruler-box {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  border-left: 1px solid var(--hairline);
}
.lens-gap {
  flex: none;
  background: var(--raised);
  border-left: 1px solid var(--hairline);
}
.panes {
  position: relative;
  flex: 1;
  min-height: 0;
}
.scroller {
  position: absolute;
  inset: 0 0 36px;
  overflow-x: hidden;
  outline: none;
  overflow-anchor: none;
}
.folded .scroller {
  bottom: 0;
}
.entry-box {
  position: absolute;
  left: 0;
  bottom: 0;
  z-index: 5;
}
.diagram {
  position: absolute;
  top: -84px;
  bottom: 0;
  border-left: 1px solid var(--hairline);
  z-index: 2;
}
.fact {
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
}
/* In a narrow window what can be done comes before how quick it was. */
@media (max-width: 1180px) {
  .network :deep(.foot) {
    gap: 12px;
    padding: 0 12px;
  }
}
.zoomer {
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
  font-size: 12px;
  height: 24px;
  width: 66px;
}
.panes-of {
  display: flex;
  gap: 10px;
}
.pane {
  border-bottom: 1.5px dotted var(--line);
  line-height: 20px !important;
}
.pane[aria-pressed='true'] {
  border-bottom: 2px solid var(--ink);
  font-weight: 650;
}
.view {
  max-width: 140px;
  margin-left: auto;
}
.sheet {
  display: flex;
  min-height: 100%;
}
.list {
  flex: none;
  position: relative;
  background: var(--raised);
}
.ground-column {
  flex: 1;
  min-width: 0;
  position: relative;
  overflow: hidden;
  border-left: 1px solid var(--hairline);
  touch-action: pan-y;
}
.lens-box {
  position: absolute;
  right: 0;
  top: -84px;
  bottom: 0;
  border-left: 1px solid var(--hairline);
  z-index: 3;
}
.empty {
  position: absolute;
  top: 30px;
  left: 24px;
}
.zoom {
  flex: none;
  margin-left: auto;
  display: flex;
  gap: 12px;
  align-items: center;
}
</style>
