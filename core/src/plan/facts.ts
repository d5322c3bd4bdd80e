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

/** A path and every path that it is a part of. */
const upFrom = (path: string): string[] => {
  const paths = [path]
  for (let at = path.lastIndexOf('/'); at > 0; at = path.lastIndexOf('/', at - 1))
    paths.push(path.slice(0, at))
  return paths
}

/** The facts of `mine` that `theirs` writes as well, or a part of. O(facts of both) */
export const sharedFacts = (mine: Change, theirs: Change): string[] => {
  const others = factsOf(theirs)
  const exactly = new Set(others)
  const around = new Set(others.flatMap(upFrom))
  return factsOf(mine).filter((fact) => around.has(fact) || upFrom(fact).some((path) => exactly.has(path)))
}
