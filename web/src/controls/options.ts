/** One of several to choose from. */
export interface Choice<V extends string | number = string> {
  readonly value: V
  readonly label: string
  readonly disabled?: boolean
}

/** Options from pairs of value and label. */
export const optionsOf = <V extends string | number>(
  pairs: readonly (readonly [value: V, label: string])[],
): Choice<V>[] => pairs.map(([value, label]) => ({ value, label }))

/** Options of activities, by code and name. */
export const optionsByCode = (
  activities: readonly { readonly id: string; readonly code: string; readonly name: string }[],
): Choice[] => activities.map(({ id, code, name }) => ({ value: id, label: `${code} ${name}`.trim() }))

/** The finish that something is about: that of the whole plan, or a milestone of it. */
export const WHOLE_PLAN = ''
export const finishOptions = (
  whole: string,
  activities: readonly {
    readonly id: string
    readonly code: string
    readonly name: string
    readonly kind: string
  }[],
): Choice[] => [
  { value: WHOLE_PLAN, label: whole },
  ...optionsByCode(activities.filter(({ kind }) => kind === 'milestone')),
]

/** Options of things that have an id and a name. */
export const optionsByName = (items: readonly { readonly id: string; readonly name: string }[]): Choice[] =>
  items.map(({ id, name }) => ({ value: id, label: name || id }))
