import type { Item } from './change.ts'
import type { ListName } from './fields.ts'
import type { ItemList, PlanItems } from './interpretChange.ts'
import type { Plan } from './schema.ts'

/** A list that can be had as an array when the changes are made. */
export interface WorkedList extends ItemList {
  items(): readonly Item[]
}

/** A plan while changes are made to it; each list is made ready when it is first asked for. */
export class PlanInWork implements PlanItems {
  project: Plan['project']
  private readonly plan: Plan
  private readonly make: (name: ListName, items: readonly Item[]) => WorkedList
  private readonly lists = new Map<ListName, WorkedList>()

  constructor(plan: Plan, make: (name: ListName, items: readonly Item[]) => WorkedList) {
    this.plan = plan
    this.project = plan.project
    this.make = make
  }
  list(name: ListName): WorkedList {
    let list = this.lists.get(name)
    if (!list) this.lists.set(name, (list = this.make(name, this.plan[name])))
    return list
  }
  /** The plan as it is now; lists that were not asked for keep their identity. */
  toPlan(): Plan {
    const { project } = this
    const lists = Object.fromEntries([...this.lists].map(([name, list]) => [name, list.items()]))
    return { ...this.plan, project, ...lists }
  }
}
