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
  /** Shows a stretch as large as there is room for. */
  fit(from: number, to: number): void
  /** Shows all there is, and keeps doing so while it grows or the room changes, until somebody pans or zooms. */
  fitAll(): void
  /** A scale of so many pixels a day, with an instant near the left edge. */
  show(perDay: number, from: number): void
  /** Brings an instant into view if it is not. */
  reveal(at: number, to: number): void
}

/** Pixels left of the first instant when all is fitted. */
const INSIDE = 20
const MIN_PER_DAY = 0.15
const MAX_PER_DAY = 1200

/**
 * The Ground's scale of time: linear in wall-clock minutes, panned and zoomed without limits that surprise.
 * @param range - first and last instant of what is drawn, pins included; null while there is nothing
 */
export const useTimeScale = (range: () => readonly [number, number] | null): TimeScale => {
  const perDay = ref(8)
  const left = ref(0)
  const width = ref(400)
  let follows = true
  const fit = (from: number, to: number): void => {
    follows = false
    const days = Math.max(1, (to - from) / DAY)
    perDay.value = Math.min(60, Math.max(MIN_PER_DAY, (width.value - 90) / days))
    left.value = from - (INSIDE / perDay.value) * DAY
  }
  const fitAll = (): void => {
    const all = range()
    if (!all || width.value < 50) return
    fit(...all)
    follows = true
  }
  const perMinute = computed(() => perDay.value / DAY)
  const x = (at: number): number => (at - left.value) * perMinute.value
  const at = (px: number): number => left.value + px / perMinute.value
  /** All is in view and fills a good part of it: small changes of dates do not move the ground under the reader. */
  const isWellSeen = ([from, to]: readonly [number, number]): boolean =>
    x(from) >= 0 && x(to) <= width.value - 30 && x(to) - x(from) > width.value / 2
  let fittedTo = 0
  watch(
    [() => range()?.[0], () => range()?.[1], width],
    () => {
      const all = range()
      if (!all || !follows || width.value < 50) return
      if (fittedTo === width.value && isWellSeen(all)) return
      fittedTo = width.value
      fitAll()
    },
    { immediate: true },
  )
  return {
    perDay,
    left,
    width,
    x,
    at,
    fit,
    fitAll,
    show: (pixels, from) => {
      follows = false
      perDay.value = pixels
      left.value = from - 40 / perMinute.value
    },
    pan: (pixels) => {
      follows = false
      left.value += pixels / perMinute.value
    },
    zoom: (factor, aroundX = width.value / 2) => {
      follows = false
      const kept = at(aroundX)
      perDay.value = Math.min(MAX_PER_DAY, Math.max(MIN_PER_DAY, perDay.value * factor))
      left.value = kept - aroundX / perMinute.value
    },
    reveal: (from, to) => {
      // The first work of a fitted plan stands a little inside the edge, and is seen.
      if (x(from) >= INSIDE / 2 && x(from) <= width.value - 60) return
      follows = false
      left.value =
        (x(to) - x(from) < width.value - 80 ? (from + to) / 2 : from) -
        (width.value / 2 / perMinute.value) * (x(to) - x(from) < width.value - 80 ? 1 : 0.6)
    },
  }
}
