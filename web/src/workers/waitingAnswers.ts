/** Questions to a worker that wait for their answers, each by its number. */
export class WaitingAnswers<A> {
  private readonly waiting = new Map<number, (answer: A) => void>()
  private next = 1

  /** @param post - sends the question with the number by which it is answered */
  ask(post: (requestId: number) => void): Promise<A> {
    const requestId = this.next++
    return new Promise((resolve) => {
      this.waiting.set(requestId, resolve)
      post(requestId)
    })
  }

  /** What nobody waits for any more is dropped. */
  answer(requestId: number, answer: A): void {
    this.waiting.get(requestId)?.(answer)
    this.waiting.delete(requestId)
  }

  /** Tells everybody who waits the same. */
  answerAll(answer: A): void {
    this.waiting.forEach((resolve) => resolve(answer))
    this.waiting.clear()
  }
}
