import { useRoute, useRouter } from 'vue-router'
import { KEEPERS } from '@geodrome/core'
import { api } from '../api/client.ts'
import { useCommands, type Command } from '../commands/registry.ts'
import { foldedFrom, groupDepths } from '../panes/rows/foldLevel.ts'
import { useListStore } from '../panes/rows/listStore.ts'
import { usePlanStore } from '../stores/planStore.ts'
import { useUiStore } from '../stores/uiStore.ts'
import { STAGES } from './stages.ts'

type Given = Pick<Command, 'id' | 'label' | 'run'> & Partial<Command>
const anywhere = (command: Given): Command => ({ keys: [], explains: '', place: 'Anywhere', ...command })

const PANES = [
  ['ground', 'the Ground'],
  ['map', 'the Map'],
  ['arrows', 'the Arrow map'],
] as const
const REVIEWS = [
  ['integrity', 'Test whether a delay arrives at the finish', 'path integrity, in Review'],
  ['points', 'Assess the 14 points', 'in Review'],
  ['revisions', 'Compare two revisions', 'with a plan file, or with the plan as it was'],
  ['nudge', 'Nudge test', 'what a day longer does to the finish, activity by activity'],
  ['limits', 'Set the thresholds of Review', 'what counts as too much'],
  ['record', 'Print or export the review', 'page, XLSX, CSV'],
] as const

/** What can be done wherever one is in a plan. */
export const useFrameCommands = (): void => {
  const plans = usePlanStore()
  const ui = useUiStore()
  const list = useListStore()
  const router = useRouter()
  const route = useRoute()
  const go = (name: string, part?: string): void =>
    void router.push({ name, params: { id: route.params.id as string, ...(part && { part }) } })
  const inNetwork = (run: () => void) => (): void => {
    run()
    go('network')
  }
  const showPane = (pane: (typeof PANES)[number][0]) => inNetwork(() => (ui.pane = pane))
  const nextPane = (): void => {
    const at = PANES.findIndex(([id]) => id === ui.pane)
    ui.pane = PANES[(at + 1) % PANES.length]![0]
  }
  const showLongestPath = (): void => {
    const { view, viewPlan } = plans
    if (!view || !viewPlan) return
    ui.filter = {
      ids: new Set(viewPlan.activities.filter((_, i) => view.onLongestPath[i] === 1).map((a) => a.id)),
      reason: 'on the longest path',
    }
    go('network')
  }
  /** The list folded to each level that its groups have, or all of it open. */
  const levels = (): Command[] => {
    const { groups } = plans.viewPlan ?? { groups: [] }
    const deepest = [...groupDepths(groups).values()].reduce((a, b) => Math.max(a, b), -1)
    const foldTo = (depth: number) => inNetwork(() => (ui.collapsed = foldedFrom(groups, depth)))
    if (deepest < 0) return []
    return [
      ...Array.from({ length: deepest + 1 }, (_, k) =>
        anywhere({ id: `fold-${k}`, label: `Fold the list to level ${k + 1}`, run: foldTo(k) }),
      ),
      anywhere({ id: 'unfold', label: 'Open all groups of the list', run: foldTo(Infinity) }),
    ]
  }

  useCommands(() => [
    anywhere({
      id: 'palette',
      label: 'Find an activity, or do anything',
      keys: ['Ctrl K'],
      isKeyOnly: true,
      whileTyping: true,
      run: () => (ui.paletteOpen = !ui.paletteOpen),
    }),
    anywhere({
      id: 'undo',
      label: 'Undo the last change',
      keys: ['Ctrl Z'],
      closed: plans.stacks.undo.length > 0 || plans.hasEarlier ? '' : 'you have changed nothing',
      run: () => void plans.undo(),
    }),
    anywhere({
      id: 'redo',
      label: 'Redo the change taken back last',
      keys: ['Ctrl Shift Z', 'Ctrl Y'],
      closed: plans.stacks.redo.length > 0 ? '' : 'nothing was undone last',
      run: () => plans.redo(),
    }),
    ...STAGES.map((stage, k) =>
      anywhere({
        id: `stage-${stage.name}`,
        label: `Go to ${stage.label}`,
        keys: [`Alt ${k + 1}`],
        run: () => go(stage.name),
      }),
    ),
    ...[{ id: null, name: 'the plan' }, ...(plans.base?.scenarios ?? [])]
      .filter((s) => plans.kept !== null || s.id !== plans.scenarioId)
      .map((s) =>
        anywhere({
          id: `view-${s.id ?? ''}`,
          label: `View ${s.id === null ? s.name : `scenario ${s.name}`}`,
          explains: 'changes are made in what is in view',
          run: () => plans.viewScenario(s.id),
        }),
      ),
    ...KEEPERS.flatMap((list) =>
      (plans.base?.[list] ?? []).map(({ id, name }) =>
        anywhere({
          id: `view-${list}-${id}`,
          label: `View the plan as it was: ${name || (list === 'baselines' ? 'a baseline' : 'an update')}`,
          explains: list === 'baselines' ? 'when this baseline was frozen' : 'after this update',
          run: () => void plans.viewKept(list, id),
        }),
      ),
    ),
    ...levels(),
    ...list.views.map((v) =>
      anywhere({
        id: `list-${v.name}`,
        label: `List as ${v.name}`,
        explains: 'columns, order, filter',
        run: inNetwork(() => list.use(v.name)),
      }),
    ),
    anywhere({
      id: 'next-pane',
      label: 'Ground, Map, Arrow map in turn',
      keys: ['Alt M', 'M'],
      isKeyOnly: true,
      run: nextPane,
    }),
    ...PANES.filter(([id]) => id !== ui.pane).map(([id, name]) =>
      anywhere({ id: `pane-${id}`, label: `Show ${name} beside the list`, run: showPane(id) }),
    ),
    anywhere({
      id: 'columns',
      label: 'Choose columns, order, filter of the list',
      run: inNetwork(() => (list.panelOpen = true)),
    }),
    anywhere({ id: 'changes', label: 'Changes, and who made them', run: () => (ui.changesOpen = true) }),
    ...REVIEWS.map(([part, label, explains]) =>
      anywhere({ id: `review-${part}`, label, explains, run: () => go('review', part) }),
    ),
    anywhere({
      id: 'longest-path',
      label: 'Show the longest path alone',
      explains: 'in the list and on the Ground',
      run: showLongestPath,
    }),
    anywhere({
      id: 'theme',
      label: ui.theme === 'dusk' ? 'Daylight theme' : 'Dusk theme',
      run: () => (ui.theme = ui.theme === 'dusk' ? 'daylight' : 'dusk'),
    }),
    anywhere({
      id: 'times',
      label: ui.allTimes ? 'Show times only where they matter' : 'Show times in all dates',
      keys: ['Alt T', 'T'],
      run: () => (ui.allTimes = !ui.allTimes),
    }),
    anywhere({ id: 'keys', label: 'Keys', keys: ['?'], run: () => (ui.shortcutsOpen = !ui.shortcutsOpen) }),
    anywhere({
      id: 'export',
      label: 'Export the plan file',
      explains: 'JSON, for a colleague or another program',
      run: () => window.open(api.fileUrl(plans.planId!), '_self'),
    }),
    anywhere({ id: 'home', label: 'All plans', run: () => void router.push('/') }),
  ])
}
