import { keyOf, LIST_NAMES, type Item, type ListName, type Plan } from '@geodrome/core'

/** A plan as it is kept: texts only, so that it can be made in another thread and handed over cheaply. */
export interface PlanRows {
  readonly code: string
  readonly name: string
  /** Everything that is not an item of a list, as JSON. */
  readonly head: string
  readonly lists: readonly {
    readonly list: ListName
    readonly keys: readonly string[]
    readonly bodies: readonly string[]
  }[]
}

const headOf = (plan: Plan): Item => {
  const head: Item = { ...plan }
  for (const list of LIST_NAMES) delete head[list]
  return head
}

export const headColumns = (plan: Plan): Pick<PlanRows, 'code' | 'name' | 'head'> => ({
  code: plan.project.code.slice(0, 200),
  name: plan.project.name.slice(0, 500),
  head: JSON.stringify(headOf(plan)),
})

export const planRowsOf = (plan: Plan): PlanRows => ({
  ...headColumns(plan),
  lists: LIST_NAMES.map((list) => {
    const items: readonly Item[] = plan[list]
    return {
      list,
      keys: items.map((item) => keyOf(list, item)),
      bodies: items.map((item) => JSON.stringify(item)),
    }
  }),
})
