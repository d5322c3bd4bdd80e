import type { ObjectDirective } from 'vue'

type Field = HTMLInputElement | HTMLTextAreaElement
const typing = new WeakSet<Field>()

/**
 * Shows a value in a field that is read when it is left or Enter is pressed. What is being typed stays, whatever is drawn anew around
 * it; so does what was not understood, until the value itself changes.
 */
export const vKept: ObjectDirective<Field, string | number | undefined> = {
  mounted(field, { value }) {
    field.value = String(value ?? '')
    field.addEventListener('input', () => typing.add(field))
    field.addEventListener('change', () => typing.delete(field))
  },
  updated(field, { value, oldValue }) {
    if (value !== oldValue && !(typing.has(field) && field === document.activeElement))
      field.value = String(value ?? '')
  },
}
