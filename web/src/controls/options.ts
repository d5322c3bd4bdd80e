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

/** Options of things that have an id and a name. */
export const optionsByName = (items: readonly { readonly id: string; readonly name: string }[]): Choice[] =>
  items.map(({ id, name }) => ({ value: id, label: name || id }))
