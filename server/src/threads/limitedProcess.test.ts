import { afterEach, expect, it } from 'vitest'
import { BadRequestError, BusyError } from '../errors.ts'
import { LimitedProcess } from './limitedProcess.ts'

interface Said {
  readonly pid: number
  readonly sum?: number
}
const processes: LimitedProcess<Said>[] = []
const processOf = (seconds = 20): LimitedProcess<Said> => {
  const limited = new LimitedProcess<Said>({
    task: new URL('./testing/trialTask', import.meta.url),
    waiting: 2,
    idleSeconds: 5,
    memoryMb: 60,
    seconds,
    words: { one: 'this file', mend: 'split it', many: 'many files are read' },
  })
  processes.push(limited)
  return limited
}
afterEach(() => Promise.all(processes.splice(0).map((limited) => limited.stop())))
const isAlive = (pid: number): boolean => {
  try {
    return process.kill(pid, 0)
  } catch {
    return false
  }
}

it('keeps its process from file to file, in their order, whatever their size', async () => {
  const limited = processOf()
  const files = [new Uint8Array(0), new Uint8Array(3_000_001).fill(1), new Uint8Array([7, 8])]
  const said = await Promise.all(files.map((file) => limited.run('sum', file)))
  expect(said.map(({ sum }) => sum)).toEqual([0, 3_000_001, 15])
  expect(new Set(said.map(({ pid }) => pid)).size).toBe(1)
})

it('ends a process that has grown, and its memory with it', async () => {
  const limited = processOf()
  const { pid } = await limited.run('grow', new Uint8Array(1))
  expect((await limited.run('sum', new Uint8Array(1))).pid).not.toBe(pid)
  expect(isAlive(pid)).toBe(false)
})

it('says what takes too much or too long, and answers the next', async () => {
  await expect(processOf(60).run('fill the heap', new Uint8Array(9))).rejects.toThrow(
    new BadRequestError('this file needs more memory than there is for one (60 MB); split it'),
  )
  const limited = processOf(3)
  await expect(limited.run('sleep', new Uint8Array(9))).rejects.toThrow(
    new BadRequestError('this file takes longer than 3 seconds; split it'),
  )
  expect((await limited.run('sum', new Uint8Array([4]))).sum).toBe(4)
})

it('passes on a fault of the task and the end of its process as faults, and answers the next', async () => {
  const limited = processOf()
  await expect(limited.run('nonsense', new Uint8Array(0))).rejects.toThrow('what is nonsense?')
  await expect(limited.run('end', new Uint8Array(0))).rejects.toThrow('ended with 3')
  expect((await limited.run('sum', new Uint8Array([4]))).sum).toBe(4)
})

it('lets no more wait than it may, and nobody after it was stopped', async () => {
  const limited = processOf()
  const waiting = [1, 2, 3].map((k) => limited.run('sum', new Uint8Array([k])))
  await expect(limited.run('sum', new Uint8Array())).rejects.toThrow(BusyError)
  const { pid } = (await Promise.all(waiting))[0]!
  await limited.stop()
  expect(isAlive(pid)).toBe(false)
  await expect(limited.run('sum', new Uint8Array())).rejects.toThrow(BusyError)
})
