import type { RoutedLayout } from '@geodrome/core'
import type { ArrowsDrawn, ArrowsRequest, LayersRequest, LayoutReply } from './layout.worker.ts'
import LayoutWorker from './layout.worker.ts?worker'

/** Lays graphs out beside the page; an answer to an older question than the last one is dropped. */
export class LayoutClient {
  private readonly worker = new LayoutWorker()
  private asked = 0
  private waiting: ((reply: LayoutReply | null) => void) | null = null

  constructor() {
    this.worker.onmessage = ({ data }: MessageEvent<LayoutReply>) => {
      if (data.id !== this.asked) return
      this.waiting?.(data)
      this.waiting = null
    }
  }
  /** @returns null where a newer question came in between */
  async layout(n: number, edges: readonly (readonly [number, number])[]): Promise<RoutedLayout | null> {
    const reply = await this.ask({
      kind: 'layers',
      n,
      from: Int32Array.from(edges, ([from]) => from),
      to: Int32Array.from(edges, ([, to]) => to),
    })
    return reply?.layers ?? null
  }
  /** @returns null where a newer question came in between */
  async arrows(network: Omit<ArrowsRequest, 'id' | 'kind'>): Promise<ArrowsDrawn | null> {
    const reply = await this.ask({ kind: 'arrows', ...network })
    return reply?.arrows ?? null
  }
  private ask(question: Omit<LayersRequest, 'id'> | Omit<ArrowsRequest, 'id'>): Promise<LayoutReply | null> {
    this.waiting?.(null)
    this.worker.postMessage({ ...question, id: ++this.asked })
    return new Promise((resolve) => (this.waiting = resolve))
  }
  stop(): void {
    this.worker.terminate()
  }
}
