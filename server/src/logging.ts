import { pino, type Logger } from 'pino'

/** What of an error may stand in a log: what kind it is and where it came from. Its message may hold words of a plan, its SQL does. */
const errorForLog = (error: unknown): Record<string, unknown> => {
  if (!(error instanceof Error)) return { name: typeof error }
  const { code, errno, sqlState } = { ...error, ...(error as { parent?: object }).parent } as Record<
    string,
    unknown
  >
  const frames = (error.stack ?? '').split('\n').filter((line) => line.startsWith('    at '))
  return {
    name: error.name,
    ...(code !== undefined && { code }),
    ...(errno !== undefined && { errno }),
    ...(sqlState !== undefined && { sqlState }),
    stack: frames.join('\n'),
    ...(error.cause !== undefined && { cause: errorForLog(error.cause) }),
  }
}

/** Not one word of a plan goes into the log. Requests are told by their method and path. */
export const createLog = (level: string, to?: NodeJS.WritableStream): Logger =>
  pino(
    {
      level,
      serializers: {
        err: errorForLog,
        req: ({ id, method, url }: { id: unknown; method: string; url: string }) => ({
          id,
          method,
          path: url.split('?')[0],
        }),
      },
    },
    to ?? process.stdout,
  )
