import { toRaw } from 'vue'
import type { Change, IntegrityTest, Plan } from '@geodrome/core'
import type { ReviewAnswers, ReviewAsk, ReviewReply, ReviewRequest, ReviewView } from './reviewProtocol.ts'
import { WaitingAnswers } from './waitingAnswers.ts'
import ReviewWorker from './review.worker.ts?worker'

export interface ReviewListener {
  reviewed(view: ReviewView): void
  tested(tests: readonly IntegrityTest[], done: number, total: number): void
}

/** The page's end of the review worker. It follows the plan in view change by change. */
export class ReviewClient {
  private readonly worker = new ReviewWorker()
  private readonly waiting = new WaitingAnswers<unknown>()
  private version = 0

  constructor(listener: ReviewListener) {
    this.worker.onmessage = ({ data }: MessageEvent<ReviewReply>) => {
      if (data.kind === 'reviewed') {
        if (data.view.version === this.version) listener.reviewed(data.view)
      } else if (data.kind === 'integrity') listener.tested(data.tests, data.done, data.total)
      else this.waiting.answer(data.requestId, data.answer)
    }
  }

  load(plan: Plan): void {
    this.post({ kind: 'load', version: ++this.version, plan: toRaw(plan) })
  }
  change(change: Change): void {
    this.post({ kind: 'change', version: ++this.version, change: toRaw(change) })
  }
  ask<K extends ReviewAsk['kind']>(ask: Extract<ReviewAsk, { kind: K }>): Promise<ReviewAnswers[K]> {
    return this.waiting.ask((requestId) => this.post({ kind: 'ask', requestId, ask })) as Promise<
      ReviewAnswers[K]
    >
  }
  test(activities: readonly string[] | 'all' | null): void {
    this.post({ kind: 'integrity', activities })
  }
  stop(): void {
    this.worker.terminate()
  }
  private post(request: ReviewRequest): void {
    this.worker.postMessage(request)
  }
}
