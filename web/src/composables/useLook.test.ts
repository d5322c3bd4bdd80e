import { effectScope, nextTick, ref } from 'vue'
import { afterEach, expect, it, vi } from 'vitest'

interface Pending {
  readonly run: string
  readonly question: { percent: number }
  readonly answer: (value: unknown) => void
  readonly fail: (error: Error) => void
}
const pending: Pending[] = []
vi.mock('../api/client.ts', () => ({
  api: {
    look: (_plan: string, run: string, _kind: string, question: { percent: number }) =>
      new Promise((answer, fail) => pending.push({ run, question, answer, fail })),
  },
}))
const { useLook } = await import('./useLook.ts')
afterEach(() => void (pending.length = 0))

const settled = async (): Promise<void> => {
  for (let k = 0; k < 5; k++) await nextTick()
}
const looking = () => {
  const run = ref('r1')
  const percent = ref<number | null>(80)
  const looked = effectScope().run(() =>
    useLook('joint', () =>
      percent.value === null
        ? null
        : { run: { id: run.value, planId: 'p' }, question: { percent: percent.value } },
    ),
  )!
  return { run, percent, looked }
}

it('keeps an answer until the next is there, and takes no answer to an older question', async () => {
  const { percent, looked } = looking()
  expect(looked.isAsking.value).toBe(true)
  pending[0]!.answer('at 80')
  await settled()
  expect([looked.answer.value, looked.isAsking.value]).toEqual(['at 80', false])
  percent.value = 50
  await settled()
  percent.value = 60
  await settled()
  expect(pending.map(({ question }) => question.percent)).toEqual([80, 50, 60])
  expect(looked.answer.value).toBe('at 80')
  pending[2]!.answer('at 60')
  pending[1]!.answer('at 50')
  await settled()
  expect(looked.answer.value).toBe('at 60')
})

it('an answer about something else goes at once, before anything is drawn', async () => {
  const subject = ref('finish')
  const looked = effectScope().run(() =>
    useLook('joint', () => ({
      run: { id: 'r1', planId: 'p' },
      question: { percent: 80 },
      about: subject.value,
    })),
  )!
  pending[0]!.answer('dates')
  await settled()
  expect(looked.answer.value).toBe('dates')
  subject.value = 'cost'
  expect(looked.answer.value).toBeNull()
})

it('an old answer goes where none can be had, where another run is asked, and where nothing is', async () => {
  const { run, percent, looked } = looking()
  pending[0]!.answer('at 80')
  await settled()
  run.value = 'r2'
  await settled()
  expect(looked.answer.value).toBeNull()
  pending[1]!.fail(new Error('the plan of this run has no such thing'))
  await settled()
  expect([looked.problem.value, looked.isAsking.value]).toEqual([
    'the plan of this run has no such thing',
    false,
  ])
  percent.value = null
  await settled()
  expect([looked.answer.value, looked.problem.value, looked.isAsking.value]).toEqual([null, '', false])
})
