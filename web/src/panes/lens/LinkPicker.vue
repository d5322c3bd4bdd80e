<script setup lang="ts">
import { optionsOf } from '../../controls/options.ts'
import ChoiceField from '../../controls/ChoiceField.vue'
import ActButton from '../../controls/ActButton.vue'
import TextField from '../../controls/TextField.vue'
import TickBox from '../../controls/TickBox.vue'
import { computed, onMounted, ref } from 'vue'
import {
  counted,
  freshId,
  lagCalendarOf,
  readDuration,
  type Activity,
  type Change,
  type Link,
  type LinkType,
  newLink,
} from '@geodrome/core'
import { useAttempt } from '../../composables/useAttempt.ts'
import { linkIndex, nearestTo, reachOf } from '../../composables/linkIndex.ts'
import { useCalendars } from '../../composables/useCalendars.ts'
import { usePlanStore } from '../../stores/planStore.ts'

/** Several activities picked from a list and linked in one go; what would make a loop stands there and says so. */
const props = defineProps<{ activity: string; side: 'in' | 'out' }>()
const emit = defineEmits<{ close: [] }>()
const plans = usePlanStore()
const calendars = useCalendars(() => plans.viewPlan)
const { problem, attempt } = useAttempt()

const MOST = 60
const finder = ref<InstanceType<typeof TextField> | null>(null)
onMounted(() => finder.value?.focus())
const typed = ref('')
const picked = ref<readonly string[]>([])
const type = ref<LinkType>('FS')
const lag = ref('')

const plan = computed(() => plans.viewPlan!)
const self = computed(() => plans.activity(props.activity)!)
const groups = computed(() => new Map(plan.value.groups.map((g) => [g.id, g])))
/** What cannot be picked, and why. */
const closed = (other: Activity): string => {
  const { into, out } = linkIndex(plan.value.links)
  const ties = (props.side === 'in' ? into : out).get(props.activity) ?? []
  if (ties.some((l: Link) => (props.side === 'in' ? l.from : l.to) === other.id && l.type === type.value))
    return `linked already`
  const { up, down } = reachOf(plan.value.links, props.activity)
  if (props.side === 'in' && down.has(other.id)) return `${self.value.code} leads to it: a loop`
  if (props.side === 'out' && up.has(other.id)) return `it leads to ${self.value.code}: a loop`
  return ''
}
/** What matches, those nearest in the network and then in the list first; what is picked stays on top. */
const offers = computed(() => {
  const words = typed.value.toLowerCase().split(/\s+/).filter(Boolean)
  const matches = (a: Activity): boolean => {
    const text = `${a.code} ${a.name} ${groups.value.get(a.group ?? '')?.name ?? ''}`.toLowerCase()
    return a.id !== props.activity && words.every((w) => text.includes(w))
  }
  const at = plans.byId.get(props.activity)!
  const near = new Set(words.length === 0 ? nearestTo(plan.value.links, props.activity, 12) : [])
  const found = plan.value.activities
    .map((activity, i) => ({ activity, far: near.has(activity.id) ? 0 : Math.abs(i - at) }))
    .filter(({ activity }) => !picked.value.includes(activity.id) && matches(activity))
    .sort((a, b) => a.far - b.far)
  return {
    shown: [...picked.value.map((id) => plans.activity(id)!), ...found.slice(0, MOST).map((f) => f.activity)],
    more: Math.max(0, found.length - MOST),
  }
})
const toggle = (id: string): void =>
  void (picked.value = picked.value.includes(id)
    ? picked.value.filter((other) => other !== id)
    : [...picked.value, id])
const lagRead = computed(() =>
  lag.value.trim() === ''
    ? { ok: true as const, minutes: 0 }
    : readDuration(lag.value, calendars.value!.lengthsOf(self.value)),
)
/** In words from where one stands: this activity and those picked. */
const TYPES = computed((): readonly (readonly [LinkType, string])[] =>
  props.side === 'in'
    ? [
        ['FS', 'after them, FS'],
        ['SS', 'with their start, SS'],
        ['FF', 'ends with them, FF'],
        ['SF', 'ends with their start, SF'],
      ]
    : [
        ['FS', 'they after it, FS'],
        ['SS', 'they with its start, SS'],
        ['FF', 'they end with it, FF'],
        ['SF', 'they end with its start, SF'],
      ],
)

const make = (): void => {
  if (!lagRead.value.ok || picked.value.length === 0) return
  const made = [...plan.value.links]
  const changes = picked.value.map((id): Change => {
    const [from, to] = props.side === 'in' ? [id, props.activity] : [props.activity, id]
    // Each lag counts on the calendar of its own link, whose days may be other days.
    const own = readDuration(
      lag.value,
      calendars.value!.lengths(
        lagCalendarOf(plan.value.project, { lagOn: null }, plans.activity(from), plans.activity(to)),
      ),
    )
    const item = newLink({
      id: freshId(made, 'l', Math.random),
      from,
      to,
      type: type.value,
      lag: own.ok ? own.minutes : 0,
    })
    made.push(item as Link)
    return { kind: 'add', list: 'links', item, before: null }
  })
  if (attempt(() => plans.edit(changes.length === 1 ? changes[0]! : { kind: 'all', changes }))) emit('close')
}
</script>

<template>
  <form
    class="picker"
    :aria-label="side === 'in' ? 'Pick what it waits for' : 'Pick what it leads to'"
    data-test="link-picker"
    @submit.prevent="make"
    @keydown.esc.stop="emit('close')"
  >
    <TextField
      ref="finder"
      v-model="typed"
      label="Find in code, name or group"
      placeholder="code, name or group"
      @keydown.enter.prevent
    />
    <ul class="scroll">
      <li v-for="a in offers.shown" :key="a.id">
        <TickBox
          :model-value="picked.includes(a.id)"
          :disabled="closed(a) !== '' && !picked.includes(a.id)"
          @update:model-value="toggle(a.id)"
          :class="{ closed: closed(a) && !picked.includes(a.id) }"
        >
          <span class="code">{{ a.code }}</span>
          <span
            >{{ a.name }}<small v-if="closed(a)" class="soft">, {{ closed(a) }}</small></span
          >
        </TickBox>
      </li>
      <li v-if="offers.shown.length === 0" class="soft">Nothing matches.</li>
      <li v-if="offers.more > 0" class="soft">
        {{ offers.more }} more; write some of their code, name or group.
      </li>
    </ul>
    <div class="how">
      <ChoiceField v-model="type" label="Type of link" :options="optionsOf(TYPES)" />
      <TextField v-model="lag" label="Lag" placeholder="lag: 2d, -4h" :invalid="!lagRead.ok" />
    </div>
    <small v-if="!lagRead.ok" class="brick">{{ lagRead.why }}</small>
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
    <p class="how">
      <ActButton type="submit" :disabled="picked.length === 0 || !lagRead.ok">
        {{
          picked.length === 0 ? 'Pick some' : `Tie ${counted(picked.length, 'activity')}`
        }}</ActButton><ActButton type="button" @click="emit('close')"> Leave it </ActButton>
    </p>
  </form>
</template>

<style scoped>
.picker {
  display: flex;
  flex-direction: column;
  gap: 6px;
  border: 1.5px solid var(--ink);
  border-radius: 8px;
  padding: 8px;
  background: var(--raised);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  max-height: 190px;
  border-block: 1px solid var(--hairline);
}
label {
  display: flex;
  gap: 6px;
  align-items: baseline;
  min-height: 26px;
  padding: 2px 0;
  cursor: pointer;
}
label.closed {
  color: var(--soft-ink);
  cursor: default;
}
.code {
  flex: none;
  min-width: 40px;
}
.how {
  display: flex;
  gap: 6px;
}
.how .choice-field {
  flex: 1;
}
.how .text-field {
  width: 110px;
}
</style>
