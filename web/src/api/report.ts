import { reportLineSchema, type ReportLine } from '@geodrome/core'
import { ApiError, OfflineError, type PlanMeant } from './client.ts'

/** What a report on the server is asked for by. */
export interface AskedReport {
  readonly to: 'pdf' | 'html'
  readonly parts: readonly string[]
  readonly of: PlanMeant
  readonly iterations: number
  readonly seed: number
  readonly sampling: 'lhs' | 'random'
  readonly batch?: number | undefined
  readonly risks: boolean
}

/**
 * A report, made and set on the server; while it is made it says how far it is.
 * @throws ApiError with the reason where there is none; OfflineError where the server is not reached; AbortError where it was stopped
 */
export const fetchReport = async (
  plan: string,
  { to, parts, of, iterations, batch, seed, sampling, risks }: AskedReport,
  heard: (line: Extract<ReportLine, { doing: string }>) => void,
  signal: AbortSignal,
): Promise<Blob> => {
  const asked = new URLSearchParams({
    ...of,
    to,
    parts: parts.join(','),
    iterations: String(iterations),
    seed: String(seed),
    sampling,
    ...(batch !== undefined && { batch: String(batch) }),
    risks: risks ? 'yes' : 'no',
  })
  const response = await reached(() =>
    fetch(`/api/plans/${plan}/report?${asked.toString()}`, {
      headers: { Accept: 'application/x-ndjson' },
      signal,
    }),
  )
  if (!response.ok || response.body === null)
    throw new ApiError(response.status, await response.json().catch(() => ({})))
  for await (const line of linesOf(response.body)) {
    const said = reportLineSchema.parse(JSON.parse(line))
    if ('doing' in said) heard(said)
    else if ('problem' in said) throw new ApiError(400, { error: 'report', message: said.problem })
    else
      return new Blob([Uint8Array.from(atob(said.file), (letter) => letter.charCodeAt(0))], {
        type: to === 'pdf' ? 'application/pdf' : 'text/html',
      })
  }
  throw new OfflineError('the server stopped before the report was made')
}

const reached = async <T>(ask: () => Promise<T>): Promise<T> => {
  try {
    return await ask()
  } catch (error) {
    if ((error as Error).name === 'AbortError') throw error
    throw new OfflineError('the server cannot be reached', { cause: error })
  }
}

/** A stream by its lines. */
async function* linesOf(body: ReadableStream<Uint8Array>): AsyncGenerator<string> {
  const reader = body.getReader()
  const decoder = new TextDecoder()
  let rest = ''
  for (;;) {
    const { done, value } = await reached(() => reader.read())
    rest += decoder.decode(value, { stream: !done })
    const lines = rest.split('\n')
    rest = lines.pop()!
    yield* lines.filter((line) => line !== '')
    if (done) return
  }
}
