/** Keys as they are written for people: "Ctrl Shift Z", "Alt →", "Delete", "?". */
export type Keys = string

const NAMES: Readonly<Record<string, string>> = {
  '↑': 'ArrowUp',
  '↓': 'ArrowDown',
  '←': 'ArrowLeft',
  '→': 'ArrowRight',
  '−': '-',
  Esc: 'Escape',
  Space: ' ',
}

/** The parts of a keyboard event that say what was pressed. */
export type Pressed = Pick<KeyboardEvent, 'key' | 'code' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'>

/**
 * Whether these keys were pressed. Ctrl is Command on a Mac. A letter is known by its place on the keyboard where Alt or another
 * alphabet makes another sign of it; Shift counts for letters and named keys, not for signs, which need it here and not there.
 */
export const isPressed = (keys: Keys, event: Pressed): boolean => {
  const parts = keys.split(' ')
  const key = parts.at(-1)!
  const wants = (modifier: string): boolean => parts.slice(0, -1).includes(modifier)
  if (wants('Ctrl') !== (event.ctrlKey || event.metaKey) || wants('Alt') !== event.altKey) return false
  const isShifted = wants('Shift') === event.shiftKey
  if (/^[A-Z]$/.test(key)) {
    const isByPlace = event.altKey || !/^[a-z]$/i.test(event.key)
    return isShifted && (event.key.toUpperCase() === key || (isByPlace && event.code === `Key${key}`))
  }
  if (/^\d$/.test(key) && event.altKey) return isShifted && event.code === `Digit${key}`
  const name = NAMES[key] ?? key
  return event.key === name && (isShifted || (name.length === 1 && name !== ' '))
}

/** Whether a key, pressed in a field of a table, is the beginning of a text. */
export const isText = ({ key, ctrlKey, metaKey, altKey }: Pressed): boolean =>
  key.length === 1 && key !== ' ' && !ctrlKey && !metaKey && !altKey

/** Whether what has the keyboard takes text. */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
