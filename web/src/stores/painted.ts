const AT_MOST_MS = 250

/**
 * Resolves when something that comes later has been painted: in the task after the next frame. A page in the background paints
 * nothing, so after a quarter of a second it resolves in any case.
 * @param arrange - is given what to call when the thing has come
 */
export const painted = (arrange: (come: () => void) => void): Promise<void> =>
  new Promise((resolve) => {
    const timer = setTimeout(resolve, AT_MOST_MS)
    arrange(() =>
      requestAnimationFrame(() =>
        setTimeout(() => {
          clearTimeout(timer)
          resolve()
        }),
      ),
    )
  })
