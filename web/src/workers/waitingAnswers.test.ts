import { expect, it } from 'vitest'
import { WaitingAnswers } from './waitingAnswers.ts'

it('gives each question its own answer, in whatever order they come', async () => {
  const waiting = new WaitingAnswers<string>()
  const sent: number[] = []
  const [first, second] = [1, 2].map(() => waiting.ask((id) => sent.push(id)))
  waiting.answer(sent[1]!, 'to the second')
  waiting.answer(sent[0]!, 'to the first')
  expect(await Promise.all([first, second])).toEqual(['to the first', 'to the second'])
})

it('a question that is answered while it is sent is not lost', async () => {
  const waiting = new WaitingAnswers<number>()
  expect(await waiting.ask((id) => waiting.answer(id, 7))).toBe(7)
})

it('the first answer counts, and one to nobody is dropped', async () => {
  const waiting = new WaitingAnswers<string>()
  let sent = 0
  const asked = waiting.ask((id) => (sent = id))
  waiting.answer(sent + 1, 'to nobody')
  waiting.answer(sent, 'first')
  waiting.answer(sent, 'second')
  expect(await asked).toBe('first')
})

it('everybody who waits is told when there will be no more answers', async () => {
  const waiting = new WaitingAnswers<string | null>()
  const asked = [1, 2, 3].map(() => waiting.ask(() => undefined))
  waiting.answerAll(null)
  expect(await Promise.all(asked)).toEqual([null, null, null])
})
