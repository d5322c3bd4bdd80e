/**
 * Follows a pointer that was pressed until it is let go. Escape, or the system taking the pointer away, gives up: who began it takes back
 * what it did so far.
 * @param end - told whether it was let go where it is
 * @param holder - keeps the pointer, so that on its way nothing else is lit and no text selected
 */
export const followPointer = (
  pressed: Pick<PointerEvent, 'pointerId'>,
  move: (event: PointerEvent) => void,
  end: (isDropped: boolean) => void,
  holder: Pick<Element, 'setPointerCapture'> | null = null,
): void => {
  holder?.setPointerCapture(pressed.pointerId)
  const isOther = (event: PointerEvent): boolean => event.pointerId !== pressed.pointerId
  const stop = (isDropped: boolean): void => {
    window.removeEventListener('pointermove', moved)
    window.removeEventListener('pointerup', released)
    window.removeEventListener('pointercancel', takenAway)
    window.removeEventListener('keydown', escaped)
    end(isDropped)
  }
  const moved = (event: PointerEvent): void => {
    if (!isOther(event)) move(event)
  }
  const released = (event: PointerEvent): void => {
    if (!isOther(event)) stop(true)
  }
  const takenAway = (event: PointerEvent): void => {
    if (!isOther(event)) stop(false)
  }
  const escaped = (event: KeyboardEvent): void => {
    if (event.key === 'Escape') stop(false)
  }
  window.addEventListener('pointermove', moved)
  window.addEventListener('pointerup', released)
  window.addEventListener('pointercancel', takenAway)
  window.addEventListener('keydown', escaped)
}
