import { computed, ref, watch, type Ref } from 'vue'

const DAY = 1440

export interface TimeScale {
  /** Pixels per day. */
  readonly perDay: Ref<number>
  /** Instant at the left edge. */
  readonly left: Ref<number>
  readonly width: Ref<number>
  x(at: number): number
  at(x: number): number
  pan(pixels: number): void
  zoom(factor: number, aroundX?: number): void
  fit(from: number, to: number): void
  /** Brings an instant into view if it is not. */
  reveal(at: number, to: number): void
}

const MIN_PER_DAY = 0.15
const MAX_PER_DAY = 1200

/** The Ground's scale of time: linear in wall-clock minutes, panned and zoomed without limits that surprise. */
export const useTimeScale = (range: () => readonly [number, number] | null): TimeScale => {
  const perDay = ref(8)
  const left = ref(0)
  const width = ref(400)
  let fitted = false
  const fit = (from: number, to: number): void => {
    const days = Math.max(1, (to - from) / DAY)
    perDay.value = Math.min(60, Math.max(MIN_PER_DAY, (width.value - 90) / days))
    left.value = from - (20 / perDay.value) * DAY
  }
  watch(
    [() => range()?.[0], width],
    () => {
      const now = range()
      if (!now || fitted || width.value < 50) return
      fit(...now)
      fitted = true
    },
    { immediate: true },
  )
  const perMinute = computed(() => perDay.value / DAY)
  const x = (at: number): number => (at - left.value) * perMinute.value
  const at = (px: number): number => left.value + px / perMinute.value
  return {
    perDay,
    left,
    width,
    x,
    at,
    fit,
    pan: (pixels) => (left.value += pixels / perMinute.value),
    zoom: (factor, aroundX = width.value / 2) => {
      const kept = at(aroundX)
      perDay.value = Math.min(MAX_PER_DAY, Math.max(MIN_PER_DAY, perDay.value * factor))
      left.value = kept - aroundX / perMinute.value
    },
    reveal: (from, to) => {
      if (x(from) >= 20 && x(from) <= width.value - 60) return
      left.value =
        (x(to) - x(from) < width.value - 80 ? (from + to) / 2 : from) -
        (width.value / 2 / perMinute.value) * (x(to) - x(from) < width.value - 80 ? 1 : 0.6)
    },
  }
}
