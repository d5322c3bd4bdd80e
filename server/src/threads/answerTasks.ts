/** What a process of its own says of a task: that it begins with it, then its answer, or how it failed, and what the process has grown to. */
export type Heard<Answer> =
  | { readonly begins: true }
  | ({ readonly megabytes: number } & ({ readonly answer: Answer } | { readonly failed: string }))

/**
 * What a process does that `LimitedProcess` began: each task comes as a message, its file over the standard input; the process ends when
 * the server does.
 */
export const answerTasks = <Answer>(
  answer: (kind: string, file: Uint8Array) => Answer | Promise<Answer>,
): void => {
  let task: { kind: string; file: Uint8Array; filled: number } | null = null
  const early: Uint8Array[] = []

  const say = (said: { answer: Answer } | { failed: string }): void => {
    process.send!({ ...said, megabytes: process.memoryUsage.rss() / 1024 ** 2 } satisfies Heard<Answer>)
  }
  const take = (chunk: Uint8Array): void => {
    if (task === null) return void early.push(chunk)
    task.file.set(chunk, task.filled)
    task.filled += chunk.length
    begin()
  }
  const begin = (): void => {
    if (task === null || task.filled < task.file.length) return
    const { kind, file } = task
    task = null
    process.send!({ begins: true } satisfies Heard<Answer>)
    Promise.resolve()
      .then(() => answer(kind, file))
      .then(
        (given) => say({ answer: given }),
        (error: unknown) => say({ failed: String(error) }),
      )
  }

  process.on('message', ({ kind, bytes }: { kind: string; bytes: number }) => {
    task = { kind, file: new Uint8Array(bytes), filled: 0 }
    begin()
    early.splice(0).forEach(take)
  })
  process.stdin.on('data', take)
  process.on('disconnect', () => process.exit())
}
