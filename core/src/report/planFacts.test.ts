import { readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import { agreement, chainSettings, currentChain } from '../chain/index.ts'
import { parseJson, readPlan, type AgreedChain, type Plan } from '../plan/index.ts'
import { planFacts } from './planFacts.ts'

const may = readPlan(
  parseJson(readFileSync(new URL('../../../demo/kittiwake-may.geodrome.json', import.meta.url), 'utf8')),
).plan
const withChain = (plan: Plan, agreed: AgreedChain | null): Plan => ({
  ...plan,
  project: { ...plan.project, chain: { ...chainSettings(plan), agreed } },
})

it('says of an agreed chain where its project buffer stands, and how many buffers ask for somebody', () => {
  const { chain } = planFacts(may)
  const settings = chainSettings(may)
  const { buffers } = currentChain(may, settings, settings.agreed!)
  const project = buffers.find(({ id }) => id === 'project')!
  expect(chain).toMatchObject({
    says: 'leave',
    promised: settings.agreed!.buffers.find(({ kind }) => kind === 'project')!.finish,
  })
  expect(chain).toMatchObject({ progress: project.progress, consumption: project.consumption })
  expect(chain && 'act' in chain && chain.act).toBe(buffers.filter(({ says }) => says === 'act').length)
  expect(buffers.some(({ says }) => says === 'act')).toBe(true)
  expect(planFacts(withChain(may, null)).chain).toBeNull()
})

it('writes down a buffer without a size that is used as used up many times over', () => {
  const { agreed } = chainSettings(may)
  const none = {
    ...agreed!,
    buffers: agreed!.buffers.map((one) => ({ ...one, minutes: 0, start: '2027-04-13T07:00' })),
  }
  expect(planFacts(withChain(may, none)).chain).toMatchObject({ consumption: 99, says: 'act' })
  expect(JSON.stringify(planFacts(withChain(may, none)))).not.toContain('null,"says"')
})

it('of a plan that has only just agreed nothing is used', () => {
  const fresh = { ...may, activities: may.activities.map((one) => ({ ...one, promise: null })) }
  const settings = chainSettings(withChain(fresh, null))
  const agreed = agreement(fresh, settings, '2027-05-10')
  expect(planFacts(withChain(fresh, agreed)).chain).toMatchObject({ consumption: 0, says: 'leave', act: 0 })
})
