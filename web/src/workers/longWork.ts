import { CalendarError, LevelError, PlanError } from '@geodrome/core'

/** What a worker that does one long piece of work says of it. */
export type LongReply<A> =
  | { readonly kind: 'answer'; readonly answer: A }
  | { readonly kind: 'done' }
  | { readonly kind: 'failed'; readonly message: string }

/** Why work on a plan has no answer, where that is the plan's doing; null for a fault of ours. */
const refusal = (error: unknown): string | null => {
  if (error instanceof PlanError) return error.issues[0]!.message
  if (error instanceof CalendarError || error instanceof LevelError || error instanceof RangeError)
    return error.message
  return null
}

/** Makes this worker do a piece of work for each question it gets; what is said while it goes on is shown as it comes. */
export const serveLongWork = <Q, A>(
  work: (question: Q, say: (answer: A) => void) => void | Promise<void>,
): void => {
  const post = (reply: LongReply<A>): void => self.postMessage(reply)
  self.onmessage = async ({ data }: MessageEvent<Q>): Promise<void> => {
    try {
      await work(data, (answer) => post({ kind: 'answer', answer }))
      post({ kind: 'done' })
    } catch (error) {
      const message = refusal(error)
      // An error of a promise would not reach the page by itself.
      if (message === null) reportError(error)
      else post({ kind: 'failed', message })
    }
  }
}
