import { computed, type ComputedRef } from 'vue'
import type { Command } from '../../commands/registry.ts'
import {
  dissolveGroup,
  groupAround,
  groupToIndentInto,
  hangBetween,
  indent,
  linkInSeries,
  makeHeadings,
  outdent,
  PlanError,
  relinkInSeries,
  removeActivities,
  selectedRows,
  shiftRows,
  unlinkAmong,
  whyNoHeading,
  whyWhole,
  positionsOf,
  type Activity,
  type Change,
  type LinkType,
  type OutlineRow,
} from '@geodrome/core'
import { reachOf } from '../../composables/linkIndex.ts'
import { useListStore } from './listStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'

const NO_ACTIVITIES: readonly Activity[] = []

interface ListCommand extends Command {
  readonly closed: string
}

export interface ListCommands {
  /** What can be done with what is selected in the list. One that cannot be done says why, above the list, when it is given. */
  readonly commands: ComputedRef<readonly ListCommand[]>
  /** Tries an edit; a refusal stands above the list. */
  attempt(edit: () => void): boolean
}

type Given = Omit<ListCommand, 'place'>

export const useListCommands = (): ListCommands => {
  const plans = usePlanStore()
  const ui = useUiStore()
  const list = useListStore()

  const attempt = (edit: () => void): boolean => {
    try {
      edit()
      list.problem = ''
      return true
    } catch (error) {
      if (!(error instanceof PlanError) && !(error instanceof RangeError)) throw error
      list.problem = error instanceof PlanError ? error.issues[0]!.message : error.message
      return false
    }
  }
  const edit = (change: Change | null): void => {
    if (change && (change.kind !== 'all' || change.changes.length > 0)) attempt(() => plans.edit(change))
  }
  /** Of the plan as it is, not of the one whose dates are shown: keys that are held come faster than dates. */
  const byId = computed(() => positionsOf(plans.plan?.activities ?? NO_ACTIVITIES))
  const activityOf = (id: string): Activity => plans.plan!.activities[byId.value.get(id)!]!
  /** Selected activities in the order in which they were selected, those gone left out. */
  const chosen = computed(() => ui.selection.filter((id) => byId.value.has(id)))
  const rows = computed((): OutlineRow[] =>
    ui.group !== null
      ? [{ kind: 'group', id: ui.group }]
      : plans.plan
        ? selectedRows(plans.plan, chosen.value)
        : [],
  )
  const inListOrder = (): string[] =>
    [...chosen.value].sort((a, b) => byId.value.get(a)! - byId.value.get(b)!)

  const commands = computed((): ListCommand[] =>
    given().map((command) => ({
      ...command,
      place: 'With what is selected',
      run: () => {
        if (command.closed) list.problem = `${command.label}: ${command.closed}`
        else command.run()
      },
    })),
  )
  const given = (): Given[] => {
    const { plan } = plans
    if (!plan) return []
    const many = chosen.value.length > 1 ? '' : 'select two or more activities first'
    const some = rows.value.length > 0 ? '' : 'select an activity or a group first'
    const series = (type: LinkType, label: string, keys: readonly string[]): Given => ({
      id: `link-${type}`,
      label,
      keys,
      explains: 'In the order in which they were selected',
      closed: many || loopReason(type),
      run: () => edit(linkInSeries(plan, chosen.value, type, 0, Math.random)),
    })
    const loopReason = (type: LinkType): string => {
      if (type !== 'FS' || chosen.value.length > 40) return ''
      const first = chosen.value[0]!
      return reachOf(plan.links, chosen.value.at(-1)!).down.has(first)
        ? `${activityOf(chosen.value.at(-1)!).code} already leads to ${activityOf(first).code}: that would be a loop`
        : ''
    }
    const whyNoHeadings = (): string =>
      chosen.value.map((id) => whyNoHeading(plan, id)).find((why) => why !== '') ?? ''
    const into = rows.value.length > 0 ? groupToIndentInto(plan, rows.value[0]!)?.name : undefined
    return [
      {
        id: 'new',
        label: 'New line',
        keys: ['Alt N', 'N', 'Insert'],
        explains: 'Type an activity: name, duration, what it waits for',
        closed: '',
        run: () => void list.entryAsked++,
      },
      series('FS', 'Link in series', ['Alt L', 'L']),
      series('SS', 'Link their starts', []),
      {
        id: 'relink',
        label: 'Link anew in this order',
        keys: [],
        explains: 'Takes out the links among them and links them in the order in which they were selected',
        closed: many,
        run: () => edit(relinkInSeries(plan, chosen.value, Math.random)),
      },
      {
        id: 'unlink',
        label: 'Unlink',
        keys: ['Alt Shift L', 'Shift L'],
        explains: 'Takes out the links among them',
        closed: many,
        run: () => edit(unlinkAmong(plan, chosen.value)),
      },
      {
        id: 'hang',
        label: 'Hang a hammock between them',
        keys: ['Alt H'],
        explains:
          'From the start of the one selected first to the finish of the other; its length, and its cost per day, follow their dates',
        closed:
          chosen.value.length !== 2
            ? 'select two activities first, where it begins and where it ends'
            : chosen.value.some((id) => activityOf(id).kind === 'hammock')
              ? 'a hammock hangs between work or milestones, not from another hammock'
              : '',
        run: () => {
          const { change, hammock } = hangBetween(plan, [chosen.value[0]!, chosen.value[1]!], Math.random)
          if (attempt(() => plans.edit(change))) ui.select(hammock)
        },
      },
      {
        id: 'indent',
        label: into ? `Into “${into}”` : 'Into the group',
        keys: ['Alt →'],
        explains: 'Into the group that stands before, as its last',
        closed: some || (into ? '' : 'there is no group before it'),
        run: () => edit(indent(plan, rows.value)),
      },
      {
        id: 'outdent',
        label: 'Out of the group',
        keys: ['Alt ←'],
        explains: 'To where its group stands',
        closed: some,
        run: () => edit(outdent(plan, rows.value)),
      },
      {
        id: 'up',
        label: 'Move up',
        keys: ['Alt ↑'],
        explains: 'Among its neighbours',
        closed: some,
        run: () => edit(shiftRows(plan, rows.value, -1)),
      },
      {
        id: 'down',
        label: 'Move down',
        keys: ['Alt ↓'],
        explains: 'Among its neighbours',
        closed: some,
        run: () => edit(shiftRows(plan, rows.value, 1)),
      },
      {
        id: 'group',
        label: 'Make a group of them',
        keys: ['Alt G', 'G'],
        explains: 'A group is put around them; durations, links and assignments stay on the activities',
        closed: some,
        run: () => {
          const { change, group } = groupAround(plan, rows.value, 'New group', Math.random)
          if (!attempt(() => plans.edit(change))) return
          // Selected, so that what is typed next is its name.
          ui.selection = []
          ui.group = group
        },
      },
      {
        id: 'headings',
        label: chosen.value.length > 1 ? 'Make headings of them' : 'Make it a heading',
        keys: [],
        explains: 'Each becomes a group of what follows it, up to the next of them; its duration goes',
        closed: chosen.value.length === 0 ? 'select the headings first' : whyNoHeadings(),
        run: () => {
          const { change, groups } = makeHeadings(plan, chosen.value, Math.random)
          if (!attempt(() => plans.edit(change))) return
          ui.selection = []
          ui.group = groups[0]!
        },
      },
      {
        id: 'break-down',
        label: 'Break down into parts',
        keys: ['Alt B', 'B'],
        explains: 'It becomes a group; what hangs on it goes to its first or last part, as is shown first',
        closed:
          chosen.value.length === 1 ? whyWhole(activityOf(chosen.value[0]!)) : 'select one activity first',
        run: () => void (list.breaking = chosen.value[0]!),
      },
      {
        id: 'recode',
        label: 'New codes',
        keys: [],
        explains: 'Recodes by a rule: prefix, step, digits; identity and links stay',
        closed: chosen.value.length > 0 ? '' : 'select the activities first',
        run: () => void (list.recodeOpen = true),
      },
      {
        id: 'remove',
        label: ui.group === null ? 'Remove' : 'Dissolve the group',
        keys: ['Delete'],
        explains:
          ui.group === null
            ? 'With their links and assignments; undo brings all of it back'
            : 'What is in it goes up to its owner',
        closed: some,
        run: () => {
          const change =
            ui.group === null ? removeActivities(plan, inListOrder()) : dissolveGroup(plan, ui.group)
          if (!attempt(() => plans.edit(change))) return
          ui.selection = []
          ui.group = null
        },
      },
    ]
  }
  return { commands, attempt }
}
