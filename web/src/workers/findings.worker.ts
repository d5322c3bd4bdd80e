import { review, schedule, type Plan } from '@geodrome/core'
import { serveLongWork } from './longWork.ts'

/** How many findings are open in a plan. */
serveLongWork<Plan, number>((plan, say) => {
  say(review(plan, schedule(plan), { experiments: 0 }).findings.length)
})
