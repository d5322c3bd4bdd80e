import { readFile } from 'node:fs/promises'
import { parseArgs } from 'node:util'
import { CalendarError, parseJson, PlanError, pointer, readPlan, type PlanRead } from '@geodrome/core'
import { UsageError, type Command } from './command.ts'
import { COMMANDS } from './commands.ts'

/** What a call prints and exits with; nothing is printed on standard output unless all went well. */
export interface CallResult {
  /** Bytes of a file that is not text. */
  readonly stdout: string | Uint8Array
  readonly stderr: string
  readonly exitCode: 0 | 1 | 2 | 3
}

const MAX_FILE_BYTES = 256 * 1024 * 1024

const usage = (): string =>
  [
    'usage: geodrome <command> FILE [options]     FILE is a plan file, or - for standard input',
    ...Object.entries(COMMANDS).map(
      ([name, command]) => `  ${(name + ' ' + command.usage).padEnd(74)} ${command.summary}`,
    ),
    'Every command writes JSON, or with --text a form for people.',
    '',
  ].join('\n')

/** One call of the command line. @param args - without node and script; @param input - read when FILE is - */
export const run = async (
  args: readonly string[],
  input: AsyncIterable<Buffer | string>,
): Promise<CallResult> => {
  const [name, ...rest] = args
  if (name === undefined || name === '--help' || name === 'help')
    return {
      stdout: name === undefined ? '' : usage(),
      stderr: name === undefined ? usage() : '',
      exitCode: name === undefined ? 2 : 0,
    }
  const command = Object.hasOwn(COMMANDS, name) ? COMMANDS[name] : undefined
  if (!command) return wrongUsage(`there is no command "${name}"`)
  try {
    return await execute(command, rest, input)
  } catch (error) {
    if (error instanceof UsageError) return wrongUsage(error.message)
    if (error instanceof PlanError)
      return {
        stdout: '',
        stderr: error.issues.map((i) => `${i.pointer || '/'}: ${i.message}\n`).join(''),
        exitCode: 1,
      }
    throw error
  }
}

const wrongUsage = (message: string): CallResult => ({
  stdout: '',
  stderr: `geodrome: ${message}\n${usage()}`,
  exitCode: 2,
})

const execute = async (
  command: Command,
  args: string[],
  input: AsyncIterable<Buffer | string>,
): Promise<CallResult> => {
  let parsed
  try {
    parsed = parseArgs({
      args,
      allowPositionals: true,
      strict: true,
      options: { text: { type: 'boolean' }, ...command.options },
    })
  } catch (error) {
    throw new UsageError((error as Error).message)
  }
  const [file, other, ...more] = parsed.positionals
  if (file === undefined || more.length > 0 || (other !== undefined && !command.takesTwo))
    throw new UsageError(
      command.takesTwo
        ? 'name one or two plan files, one of them - for standard input'
        : 'name exactly one plan file, or - for standard input',
    )
  if (file === '-' && other === '-') throw new UsageError('only one of two plans can be standard input')
  const options = parsed.values as Record<string, string | boolean | undefined>
  const prepared = command.prepare(options)
  const read = await readFrom(file, input)
  const second = other === undefined ? null : await readFrom(other, input)
  const outcome = await pointingAtActivity(read, () => prepared(read, second))
  const stderr = read.notes.map((note) => `note: ${note.pointer}: ${note.message}\n`).join('')
  const stdout =
    typeof outcome.json === 'string' || outcome.json instanceof Uint8Array
      ? outcome.json
      : options.text
        ? outcome.text()
        : JSON.stringify(outcome.json, null, 2) + '\n'
  return { stdout, stderr, exitCode: outcome.exitCode ?? 0 }
}

/** A calendar that runs out of work is an error of the plan, at the activity that needed it. */
const pointingAtActivity = async <T>({ plan }: PlanRead, compute: () => T | Promise<T>): Promise<T> => {
  try {
    return await compute()
  } catch (error) {
    if (!(error instanceof CalendarError)) throw error
    const i = plan.activities.findIndex((a) => a.id === error.activity)
    const at =
      i >= 0
        ? pointer('activities', i)
        : pointer(
            'calendars',
            Math.max(
              0,
              plan.calendars.findIndex((c) => c.id === error.calendar),
            ),
          )
    throw new PlanError([{ pointer: at, code: 'no-working-time', message: error.message }])
  }
}

const readFrom = async (file: string, input: AsyncIterable<Buffer | string>): Promise<PlanRead> => {
  if (file !== '-') {
    let text: string
    try {
      text = await readFile(file, 'utf8')
    } catch (error) {
      throw new UsageError(`cannot read ${file}: ${(error as Error).message}`)
    }
    return readPlan(parseJson(text))
  }
  const chunks: Buffer[] = []
  let size = 0
  for await (const chunk of input) {
    const buffer = Buffer.from(chunk)
    size += buffer.length
    if (size > MAX_FILE_BYTES) throw new UsageError('standard input is longer than 256 MB')
    chunks.push(buffer)
  }
  return readPlan(parseJson(Buffer.concat(chunks).toString('utf8')))
}
