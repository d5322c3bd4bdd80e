const AT_MOST_MS = 250

/** Runs something in the task after the next frame. A page in the background paints nothing, so after a quarter of a second it runs in any case. */
export const afterPaint = (run: () => void): void => {
  let hasRun = false
  const once = (): void => {
    if (hasRun) return
    hasRun = true
    clearTimeout(timer)
    run()
  }
  const timer = setTimeout(once, AT_MOST_MS)
  requestAnimationFrame(() => setTimeout(once))
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
