/** What can be taken back and what can be done again, read off a log of changes: no state of its own. */
export interface LogLine {
  readonly uid: string
  readonly author: string
  readonly undoes: string | null
}

/**
 * @param log - oldest first
 * @returns uids, the next one to take last; to redo is to take back what took back
 */
export const undoStacks = (log: readonly LogLine[], author: string): { undo: string[]; redo: string[] } => {
  const undo: string[] = []
  let redo: string[] = []
  for (const entry of log) {
    if (entry.author !== author) continue
    const { undoes } = entry
    if (undoes !== null && undo.includes(undoes)) {
      undo.splice(undo.indexOf(undoes), 1)
      redo.push(entry.uid)
    } else if (undoes !== null && redo.includes(undoes)) {
      redo.splice(redo.indexOf(undoes), 1)
      undo.push(entry.uid)
    } else {
      undo.push(entry.uid)
      redo = []
    }
  }
  return { undo, redo }
}
