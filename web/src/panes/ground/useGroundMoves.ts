import type { Ref } from 'vue'
import { followPointer } from '../../composables/followPointer.ts'
import type { TimeScale } from '../../composables/useTimeScale.ts'

/** Moving about on the Ground: the wheel pans and, with Ctrl, zooms; what is empty is dragged, rows along with it. */
export const useGroundMoves = (
  scale: TimeScale,
  scroller: Readonly<Ref<HTMLElement | null>>,
): { onWheel(event: WheelEvent): void; onPress(event: PointerEvent): void } => ({
  onWheel: (event) => {
    if (event.ctrlKey || event.metaKey) {
      event.preventDefault()
      scale.zoom(Math.exp(-event.deltaY / 300), event.offsetX)
    } else if (event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY)) {
      event.preventDefault()
      scale.pan(event.deltaX || event.deltaY)
    }
  },
  onPress: (event) => {
    if (event.button !== 0 || (event.target as Element).closest('.hit, .tie, .limit')) return
    let [x, y] = [event.clientX, event.clientY]
    const move = ({ clientX, clientY }: PointerEvent): void => {
      scale.pan(x - clientX)
      if (scroller.value) scroller.value.scrollTop += y - clientY
      ;[x, y] = [clientX, clientY]
    }
    followPointer(event, move, () => undefined, event.currentTarget as Element)
  },
})
