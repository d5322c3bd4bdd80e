import type { Edge } from '../time/instant.ts'
import type { Link, LinkType } from './schema.ts'

/** A link as it is made: hard, without a reason, its lag counting as the project says. @param link.lag - working minutes */
export const newLink = (link: Pick<Link, 'id' | 'from' | 'to' | 'type' | 'lag'>): Link => ({
  ...link,
  lagOn: null,
  nature: 'hard',
  reason: '',
})

/** The edge of the predecessor that a link counts from. */
export const fromEdge = (type: LinkType): Edge => (type === 'SS' || type === 'SF' ? 'start' : 'finish')
/** The edge of the successor that a link limits. */
export const toEdge = (type: LinkType): Edge => (type === 'FF' || type === 'SF' ? 'finish' : 'start')
/** The type of a link between two edges. */
export const linkTypeOf = (from: Edge, to: Edge): LinkType =>
  from === 'finish' ? (to === 'start' ? 'FS' : 'FF') : to === 'start' ? 'SS' : 'SF'
