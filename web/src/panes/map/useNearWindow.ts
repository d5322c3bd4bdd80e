import type { useVueFlow } from '@vue-flow/core'
import { shallowRef, watch, type ShallowRef } from 'vue'

/** A stretch of a drawing, in its own coordinates. */
export interface NearWindow {
  readonly left: number
  readonly top: number
  readonly right: number
  readonly bottom: number
}
/** Part of the pane by which the view moves before the window is taken anew. */
const STEP = 0.4

/**
 * What lies near the part of a diagram that is seen: half a pane further each way. A large diagram gives Vue Flow this part alone.
 * Taken anew when the view has moved by a good part of itself, so that panning draws nothing new most of the time.
 */
export const useNearWindow = ({
  viewport,
  dimensions,
  getViewport,
}: Pick<
  ReturnType<typeof useVueFlow>,
  'viewport' | 'dimensions' | 'getViewport'
>): ShallowRef<NearWindow> => {
  const near = shallowRef<NearWindow>({ left: 0, top: 0, right: 0, bottom: 0 })
  watch(
    () => {
      const { x, y, zoom } = viewport.value
      const { width: w, height: h } = dimensions.value
      return `${Math.round(-x / w / STEP)}|${Math.round(-y / h / STEP)}|${Math.round(Math.log2(zoom) * 2)}|${Math.round(w / 100)}|${Math.round(h / 100)}`
    },
    () => {
      const { x, y, zoom } = getViewport()
      const { width: w, height: h } = dimensions.value
      near.value = {
        left: (-x - w / 2) / zoom,
        top: (-y - h / 2) / zoom,
        right: (1.5 * w - x) / zoom,
        bottom: (1.5 * h - y) / zoom,
      }
    },
    { immediate: true, flush: 'sync' },
  )
  return near
}
