import { layeredLayout, type LayeredLayout } from '@geodrome/core'

export interface LayoutRequest {
  readonly id: number
  readonly n: number
  readonly from: Int32Array
  readonly to: Int32Array
}
export interface LayoutReply {
  readonly id: number
  readonly layout: LayeredLayout
}

self.onmessage = ({ data }: MessageEvent<LayoutRequest>): void =>
  self.postMessage({ id: data.id, layout: layeredLayout(data.n, data.from, data.to) } satisfies LayoutReply)
