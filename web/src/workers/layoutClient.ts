import type { LayeredLayout } from '@geodrome/core'
import type { LayoutReply, LayoutRequest } from './layout.worker.ts'
import LayoutWorker from './layout.worker.ts?worker'

/** Lays graphs out beside the page; an answer to an older question than the last one is dropped. */
export class LayoutClient {
  private readonly worker = new LayoutWorker()
  private asked = 0
  private waiting: ((layout: LayeredLayout | null) => void) | null = null

  constructor() {
    this.worker.onmessage = ({ data }: MessageEvent<LayoutReply>) => {
      if (data.id !== this.asked) return
      this.waiting?.(data.layout)
      this.waiting = null
    }
  }
  /** @returns null where a newer question came in between */
  layout(n: number, edges: readonly (readonly [number, number])[]): Promise<LayeredLayout | null> {
    this.waiting?.(null)
    const request: LayoutRequest = { id: ++this.asked, n, from: Int32Array.from(edges, ([from]) => from), to: Int32Array.from(edges, ([, to]) => to) }
    this.worker.postMessage(request)
    return new Promise((resolve) => (this.waiting = resolve))
  }
  stop(): void {
    this.worker.terminate()
  }
}
