import { shallowRef, watch, type ShallowRef } from 'vue'

const AT_MOST_MS = 250

/** Runs something once, when it is called for; a page in the background paints nothing, so after a quarter of a second in any case. */
const atMostLater = (run: () => void, arrange: (come: () => void) => void): void => {
  let hasRun = false
  const once = (): void => {
    if (hasRun) return
    hasRun = true
    clearTimeout(timer)
    run()
  }
  const timer = setTimeout(once, AT_MOST_MS)
  arrange(once)
}

/** Runs something in the task after the next frame. */
const afterPaint = (run: () => void): void =>
  atMostLater(run, (come) => requestAnimationFrame(() => setTimeout(come)))

/** Runs something as part of a frame after the next one: that one is on its way to the screen before this takes the page's time. */
const inLaterFrame = (run: () => void): void =>
  atMostLater(run, (come) => requestAnimationFrame(() => setTimeout(() => requestAnimationFrame(come))))

/** A value a frame after it has changed: what is drawn of it does not hold up what must be seen at once. */
export const later = <T>(read: () => T): Readonly<ShallowRef<T>> => {
  const shown = shallowRef(read())
  let isAsked = false
  watch(
    read,
    () => {
      if (isAsked) return
      isAsked = true
      inLaterFrame(() => {
        isAsked = false
        shown.value = read()
      })
    },
    { flush: 'sync' },
  )
  return shown
}

/**
 * Resolves when something that comes later has been painted, or after a quarter of a second.
 * @param arrange - is given what to call when the thing has come
 */
export const painted = (arrange: (come: () => void) => void): Promise<void> =>
  new Promise((resolve) => {
    const timer = setTimeout(resolve, AT_MOST_MS)
    arrange(() =>
      afterPaint(() => {
        clearTimeout(timer)
        resolve()
      }),
    )
  })
