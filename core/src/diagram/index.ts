// Drawings of a network: what stands where, and what an arrow says
export { routedLayout, type RoutedLayout } from './routedLayout.ts'
export { arrowMap, orderOf, type Arrow, type ArrowEvent, type ArrowMap, type DrawnLink } from './arrowMap.ts'
export { keepEvents, numberEvents, whyNotNumber, type EventLabel, type KnownEvent } from './eventNumbers.ts'
export { arrowLayout, EVENT_RADIUS, wayPath, type ArrowLayout } from './arrowLayout.ts'
export { foldedNetwork, PART, withoutImpliedParts } from './foldedNetwork.ts'
