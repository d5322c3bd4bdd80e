import { keyOf, type Change } from './change.ts'

/**
 * The facts that a change writes, as paths: `activities/a17/duration`, `links/l1` for a whole item, `activities/a17/@place`
 * for its place in the list. Two changes conflict when one writes a fact that the other writes, or a part of it.
 */
export const factsOf = (change: Change): string[] => {
  switch (change.kind) {
    case 'project':
      return Object.keys(change.set).map((field) => `project/${field}`)
    case 'set':
      return Object.keys(change.set).map((field) => `${change.list}/${change.key}/${field}`)
    case 'add':
      return [`${change.list}/${keyOf(change.list, change.item)}`]
    case 'remove':
      return [`${change.list}/${change.key}`]
    case 'move':
      return [`${change.list}/${change.key}/@place`]
    case 'all':
      return change.changes.flatMap(factsOf)
  }
}

const overlaps = (a: string, b: string): boolean => a === b || a.startsWith(b + '/') || b.startsWith(a + '/')

/** The facts of `mine` that `theirs` writes as well. */
export const sharedFacts = (mine: Change, theirs: Change): string[] => {
  const others = new Set(factsOf(theirs))
  return factsOf(mine).filter(
    (fact) => others.has(fact) || [...others].some((other) => overlaps(fact, other)),
  )
}
