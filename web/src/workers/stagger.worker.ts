import { stagger, type Staggered, type StaggeredPlan } from '@geodrome/core'
import { serveLongWork } from './longWork.ts'

export interface StaggerQuestion {
  /** In the order of their priority. */
  readonly plans: readonly StaggeredPlan[]
  readonly drum: string
}

serveLongWork<StaggerQuestion, Staggered>(({ plans, drum }, say) => void stagger(plans, drum, say))
