import { parseJson, readPlan, type Plan } from '@geodrome/core'
import { api } from '../api/client.ts'
import { usePlanStore } from '../stores/planStore.ts'
import type { DatesThere } from '../workers/questions.ts'

/** Another plan with its dates as they are now. */
export interface OtherPlan {
  /** On this server; null: read from a file. */
  readonly id: string | null
  readonly name: string
  readonly dates: readonly DatesThere[]
}

/** Reads other plans for their dates: of the server, or of a file. */
export const useOtherPlan = (): {
  /** @throws Error with why its dates cannot be had */
  ofServer(id: string): Promise<OtherPlan>
  ofFile(file: File): Promise<OtherPlan>
} => {
  const plans = usePlanStore()
  const read = async (id: string | null, plan: Plan): Promise<OtherPlan> => ({
    id,
    name: plan.project.name || plan.project.code || 'a plan without a name',
    dates: await plans.question('datesThere', { plan }),
  })
  return {
    ofServer: async (id) => read(id, (await api.open(id)).plan),
    ofFile: async (file) => read(null, readPlan(parseJson(await file.text())).plan),
  }
}
