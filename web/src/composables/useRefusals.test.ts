import { effectScope, nextTick, ref } from 'vue'
import { expect, it } from 'vitest'
import { useRefusals } from './useRefusals.ts'

it('says why a field is not taken until it is, and nothing of another thing', async () => {
  const of = ref('clause 1')
  const kept: string[] = []
  const { why, take, refuse } = effectScope().run(() => useRefusals(() => of.value))!
  take('due', { ok: false, why: 'no date' }, () => kept.push('never'))
  refuse('cap', 'no amount')
  expect([...why]).toEqual([
    ['due', 'no date'],
    ['cap', 'no amount'],
  ])
  take('due', { ok: true }, () => kept.push('due'))
  expect([kept, why.has('due'), why.get('cap')]).toEqual([['due'], false, 'no amount'])
  of.value = 'clause 2'
  await nextTick()
  expect(why.size).toBe(0)
})
