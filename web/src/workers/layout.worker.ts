import {
  arrowLayout,
  arrowMap,
  foldedNetwork,
  routedLayout,
  withoutImpliedParts,
  type ArrowLayout,
  type ArrowMap,
  type RoutedLayout,
  type LinkType,
} from '@geodrome/core'

/** A graph to be laid out in layers. */
export interface LayersRequest {
  readonly id: number
  readonly kind: 'layers'
  readonly n: number
  readonly from: Int32Array
  readonly to: Int32Array
}
/** A network to be drawn as arrows: activities with the unit that each is drawn as, links by position. */
export interface ArrowsRequest {
  readonly id: number
  readonly kind: 'arrows'
  readonly unit: Int32Array
  readonly units: number
  readonly from: Int32Array
  readonly to: Int32Array
  readonly type: readonly LinkType[]
  /** 1 where the link has a lag. */
  readonly lagged: Uint8Array
}
/** Activities of the map are units by number, links are positions (or parts of folded groups). */
export interface ArrowsDrawn {
  readonly map: ArrowMap
  readonly layout: ArrowLayout
  /** Links of parts of folded groups that are not drawn, because the drawing says them anyhow. */
  readonly leftOut: number
}
export interface LayoutReply {
  readonly id: number
  readonly layers: RoutedLayout | null
  readonly arrows: ArrowsDrawn | null
}

const drawArrows = ({ unit, units, from, to, type, lagged }: ArrowsRequest): ArrowsDrawn => {
  const links = type.map((kind, k) => ({
    id: String(k),
    from: from[k]!,
    to: to[k]!,
    type: kind,
    lag: lagged[k]!,
  }))
  const drawn = arrowMap(
    Array.from({ length: units }, (_, u) => String(u)),
    foldedNetwork(unit.length, unit, units, links),
  )
  const { map, leftOut } = withoutImpliedParts(drawn)
  return { map, layout: arrowLayout(map), leftOut }
}

self.onmessage = ({ data }: MessageEvent<LayersRequest | ArrowsRequest>): void =>
  self.postMessage(
    (data.kind === 'layers'
      ? { id: data.id, layers: routedLayout(data.n, data.from, data.to), arrows: null }
      : { id: data.id, layers: null, arrows: drawArrows(data) }) satisfies LayoutReply,
  )
