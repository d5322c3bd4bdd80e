import { describe, expect, it, vi } from 'vitest'
import { effectScope } from 'vue'
import { useLongWork } from './useLongWork.ts'

/** Workers that do nothing by themselves: the test says what they answer. */
const working = () => {
  const workers: { worker: Worker; asked: unknown[]; isEnded: boolean }[] = []
  const work = effectScope(true).run(() =>
    useLongWork<string, number>(() => {
      const made = {
        asked: [] as unknown[],
        isEnded: false,
        worker: {
          postMessage: (question: unknown) => made.asked.push(question),
          terminate: () => (made.isEnded = true),
        } as unknown as Worker,
      }
      workers.push(made)
      return made.worker
    }),
  )!
  const answers = (k: number, data: object): void => {
    if (!workers[k]!.isEnded) workers[k]!.worker.onmessage!({ data } as MessageEvent)
  }
  return { work, workers, answers }
}

describe('long work', () => {
  vi.spyOn(console, 'warn').mockImplementation(() => {}) // outside a component it has nothing to end with
  it('hears parts until it is done', () => {
    const { work, workers, answers } = working()
    const heard: number[] = []
    work.begin('q', (one) => heard.push(one))
    expect(workers[0]!.asked).toEqual(['q'])
    answers(0, { kind: 'answer', answer: 1 })
    expect([work.isRunning.value, heard]).toEqual([true, [1]])
    answers(0, { kind: 'done' })
    expect([work.isRunning.value, work.wasStopped.value, workers[0]!.isEnded]).toEqual([false, false, true])
  })
  it('stopped by somebody ends its worker and says so, until it is begun again', () => {
    const { work, workers } = working()
    work.begin('q', () => {})
    work.stop()
    expect([work.isRunning.value, work.wasStopped.value, workers[0]!.isEnded]).toEqual([false, true, true])
    work.begin('q', () => {})
    expect([work.isRunning.value, work.wasStopped.value]).toEqual([true, false])
  })
  it('overtaken by a new question is not said to be stopped, and what comes late is not heard', () => {
    const { work, workers, answers } = working()
    const heard: number[] = []
    work.begin('old', (one) => heard.push(one))
    work.begin('new', (one) => heard.push(one))
    answers(0, { kind: 'answer', answer: 1 })
    answers(1, { kind: 'answer', answer: 2 })
    expect([heard, work.wasStopped.value, workers[0]!.isEnded]).toEqual([[2], false, true])
  })
  it('that has no answer says why; stopping what is over says nothing', () => {
    const { work, answers } = working()
    work.begin('q', () => {})
    answers(0, { kind: 'failed', message: 'no hours' })
    work.stop()
    expect([work.failure.value, work.isRunning.value, work.wasStopped.value]).toEqual([
      'no hours',
      false,
      false,
    ])
  })
})
