// Drawings of a network: what stands where, and what an arrow says
export { layeredLayout, type LayeredLayout } from './layeredLayout.ts'
export { arrowMap, orderOf, type Arrow, type ArrowEvent, type ArrowMap } from './arrowMap.ts'
