import { fork, type ChildProcess } from 'node:child_process'
import { fileURLToPath } from 'node:url'
import { BusyError } from '../errors.ts'
import type { Heard } from './answerTasks.ts'
import { areTooMany, EXEC_ARGV, fileOf, takesTooLong, takesTooMuch, type Limits } from './limits.ts'

/** What a process may have grown to and still be kept for the next task. */
const KEPT_MB = 130
const YOUNG_MB = 4
/** How long a process may take to start and to be given its file, on however slow a machine. */
const START_SECONDS = 120

/**
 * Files are read in a process of its own, one after the other: one that takes too much is given up, and whatever it took is given back
 * at once with its process, which threads do not.
 */
export class LimitedProcess<Answer> {
  private readonly limits: Limits
  private child: ChildProcess | null = null
  private idle: NodeJS.Timeout | undefined
  private last: Promise<unknown> = Promise.resolve()
  private waiting = 0
  private isStopped = false

  constructor(limits: Limits) {
    this.limits = limits
  }

  /**
   * @param file - goes over as it is
   * @throws BadRequestError where it takes too much; BusyError where too much waits
   */
  run(kind: string, file: Uint8Array): Promise<Answer> {
    if (this.waiting > this.limits.waiting) return Promise.reject(areTooMany(this.limits))
    this.waiting++
    const answer = this.last.then(() => this.ask(kind, file)).finally(() => this.waiting--)
    this.last = answer.catch(() => undefined)
    return answer
  }

  stop(): Promise<void> {
    this.isStopped = true
    const { child } = this
    if (child === null) return Promise.resolve()
    return new Promise((resolve) => {
      child.once('exit', () => resolve())
      this.end(child)
    })
  }

  private ask(kind: string, file: Uint8Array): Promise<Answer> {
    if (this.isStopped) throw areTooMany(this.limits)
    clearTimeout(this.idle)
    const child = (this.child ??= this.begin())
    return new Promise<Answer>((resolve, reject) => {
      const giveUp = (why: Error): void => {
        settle()
        this.end(child)
        reject(why)
      }
      // The task is not to blame for how long its process takes to start.
      let tooLong = setTimeout(
        () => giveUp(new BusyError('the server is too busy to read a file just now; try again in a moment')),
        START_SECONDS * 1000,
      )
      const settle = (): void => {
        clearTimeout(tooLong)
        child.off('exit', gone)
        child.off('error', unborn)
        child.off('message', heard)
      }
      const gone = (code: number | null, signal: NodeJS.Signals | null): void => {
        settle()
        // V8 aborts where the heap is at its limit.
        reject(
          signal === 'SIGABRT' || code === 134
            ? takesTooMuch(this.limits)
            : new Error(`a process that reads files ended with ${signal ?? code}`),
        )
      }
      const unborn = (error: Error): void => {
        settle()
        reject(error)
      }
      const heard = (message: Heard<Answer>): void => {
        if ('begins' in message) {
          clearTimeout(tooLong)
          tooLong = setTimeout(() => giveUp(takesTooLong(this.limits)), this.limits.seconds * 1000)
          return
        }
        settle()
        if (message.megabytes > KEPT_MB) this.end(child)
        else this.idle = setTimeout(() => this.end(child), this.limits.idleSeconds * 1000)
        if ('answer' in message) resolve(message.answer)
        else reject(new Error(message.failed))
      }
      child.on('exit', gone)
      child.on('error', unborn)
      child.on('message', heard)
      child.send({ kind, bytes: file.byteLength })
      child.stdin!.write(file)
    })
  }

  private begin(): ChildProcess {
    const { task, memoryMb } = this.limits
    const child = fork(fileURLToPath(fileOf(task)), {
      execArgv: [...EXEC_ARGV, `--max-old-space-size=${memoryMb}`, `--max-semi-space-size=${YOUNG_MB}`],
      serialization: 'advanced',
      stdio: ['pipe', 'ignore', 'ignore', 'ipc'],
    })
    const forget = (): void => {
      if (this.child === child) this.child = null
    }
    child.on('exit', forget)
    child.on('error', forget)
    // What it does not take any more, it has ended over.
    child.stdin!.on('error', () => undefined)
    return child
  }

  private end(child: ChildProcess): void {
    clearTimeout(this.idle)
    if (this.child === child) this.child = null
    child.kill('SIGKILL')
  }
}
