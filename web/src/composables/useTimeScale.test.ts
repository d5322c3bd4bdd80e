import { expect, it } from 'vitest'
import { effectScope, nextTick, ref } from 'vue'
import { useTimeScale, type TimeScale } from './useTimeScale.ts'

const DAY = 1440
const made = (from: number, to: number) => {
  const range = ref<readonly [number, number] | null>([from * DAY, to * DAY])
  const scale = effectScope(true).run(() => useTimeScale(() => range.value))!
  return { range, scale }
}
const isSeen = (scale: TimeScale, day: number): boolean =>
  scale.x(day * DAY) >= 0 && scale.x(day * DAY) <= scale.width.value

it('keeps all in view while the plan grows or the room changes', async () => {
  const { range, scale } = made(0, 100)
  range.value = [0, 400 * DAY]
  await nextTick()
  expect(isSeen(scale, 400)).toBe(true)
  scale.width.value = 200
  await nextTick()
  expect(isSeen(scale, 400)).toBe(true)
  scale.width.value = 900
  await nextTick()
  expect(scale.x(400 * DAY)).toBeGreaterThan(700)
  range.value = [0, 30 * DAY]
  await nextTick()
  expect(scale.x(30 * DAY)).toBeGreaterThan(450)
})
it('stays where it is while all is seen well: a day more does not move the ground', async () => {
  const { range, scale } = made(0, 100)
  const { value: before } = scale.perDay
  range.value = [0, 102 * DAY]
  await nextTick()
  expect(scale.perDay.value).toBe(before)
  expect(isSeen(scale, 102)).toBe(true)
})
it.each([
  ['panned', (scale: TimeScale) => scale.pan(50)],
  ['zoomed', (scale: TimeScale) => scale.zoom(2)],
  ['shown by week', (scale: TimeScale) => scale.show(40, 20 * DAY)],
  ['a stretch shown', (scale: TimeScale) => scale.fit(10 * DAY, 20 * DAY)],
])('%s, it is left alone until all is asked for again', async (_title, look) => {
  const { range, scale } = made(0, 100)
  look(scale)
  const { value: before } = scale.perDay
  range.value = [0, 400 * DAY]
  scale.width.value = 700
  await nextTick()
  expect(scale.perDay.value).toBe(before)
  scale.fitAll()
  expect(isSeen(scale, 0) && isSeen(scale, 400)).toBe(true)
  range.value = [0, 900 * DAY]
  await nextTick()
  expect(isSeen(scale, 900)).toBe(true)
})
it('a scale by week begins at the work it is asked to show', () => {
  const { scale } = made(0, 300)
  scale.show(40, 120 * DAY)
  expect(scale.x(120 * DAY)).toBeCloseTo(40)
  expect(scale.x(121 * DAY) - scale.x(120 * DAY)).toBeCloseTo(40)
})
it('brings into view what an edit moved out of it, and leaves alone what is seen', () => {
  const { scale } = made(0, 300)
  scale.show(40, 0)
  scale.reveal(2 * DAY, 3 * DAY)
  expect(scale.x(0)).toBeCloseTo(40)
  scale.reveal(200 * DAY, 203 * DAY)
  expect(isSeen(scale, 200) && isSeen(scale, 203)).toBe(true)
})
it('the first work of a plan that is fitted is in view: showing it moves nothing, and all is kept in view', async () => {
  // Lengths at which the edge is no whole number of pixels.
  for (const days of [18, 59, 85, 113]) {
    const { range, scale } = made(0, days)
    const { value: left } = scale.left
    scale.reveal(0, 2 * DAY)
    expect(scale.left.value).toBe(left)
    range.value = [0, 4 * days * DAY]
    await nextTick()
    expect(isSeen(scale, 4 * days)).toBe(true)
  }
})
it('waits for something to show', async () => {
  const range = ref<readonly [number, number] | null>(null)
  const scale = effectScope(true).run(() => useTimeScale(() => range.value))!
  range.value = [0, 50 * DAY]
  await nextTick()
  expect(isSeen(scale, 0) && isSeen(scale, 50)).toBe(true)
})
