import { setTimeout as wait } from 'node:timers/promises'
import { answerTasks } from '../answerTasks.ts'

/** A process that does what a file could make it do. */
answerTasks<unknown>(async (kind, file) => {
  switch (kind) {
    case 'sum':
      return { pid: process.pid, sum: file.reduce((sum, byte) => sum + byte, 0) }
    case 'grow':
      return { pid: process.pid, grown: Buffer.alloc(200 * 1024 ** 2, 1).length }
    case 'fill the heap': {
      const kept: object[] = []
      for (;;) kept.push({ at: kept.length })
    }
    case 'sleep':
      return wait(60_000)
    case 'end':
      return process.exit(3)
    default:
      throw new RangeError(`what is ${kind}?`)
  }
})
