import type { CalendarsOfPlan, Change, LoggedChange, Plan, PlanIssue, PlanSummary } from '@geodrome/core'

/** The server's answers, typed. Errors come as {@link ApiError}; an unreachable server as {@link OfflineError}. */

export interface OpenedPlan {
  readonly id: string
  readonly revision: number
  readonly plan: Plan
  /** The latest changes, newest first. */
  readonly changes: readonly LoggedChange[]
}
export interface SentChange {
  readonly uid: string
  readonly client: string
  readonly author: string
  readonly base: number
  readonly change?: Change
  readonly undoes?: string
}
export interface RunInput {
  readonly iterations: number
  readonly seed: number
  readonly risks: boolean
  readonly scenario: string | null
}
interface ActivityForecast {
  readonly criticality: number
  readonly sensitivity: number
  readonly p50: string
  readonly p80: string
}
export interface RunResult {
  readonly iterations: number
  readonly seed: number
  readonly risks: boolean
  readonly revision: number
  readonly scenario: string | null
  readonly planned: string
  readonly plannedProbability: number
  readonly required: string | null
  readonly requiredProbability: number | null
  readonly mean: string
  readonly sd: number
  readonly best: string
  readonly worst: string
  readonly percentiles: Readonly<Record<string, string>>
  readonly dots: readonly string[]
  readonly activities: Readonly<Record<string, ActivityForecast>>
  readonly finishes: string
}
export interface PartialResult {
  readonly dots: readonly string[]
  readonly percentiles: Readonly<Record<string, string>>
  readonly plannedProbability: number
}
export interface Run {
  readonly id: string
  readonly planId: string
  readonly input: RunInput
  readonly state: 'queued' | 'running' | 'done' | 'failed' | 'cancelled'
  readonly done: number
  readonly total: number
  readonly result: RunResult | null
  readonly error: string | null
  readonly createdAt: string
}
export interface JobProgress {
  readonly id: string
  readonly state: Run['state']
  readonly done: number
  readonly total: number
  readonly partial: PartialResult | null
}

export class ApiError extends Error {
  readonly status: number
  readonly code: string
  readonly issues: readonly PlanIssue[]
  readonly facts: readonly string[]
  readonly theirs: readonly LoggedChange[]
  constructor(
    status: number,
    body: {
      error?: string
      message?: string
      issues?: PlanIssue[]
      facts?: string[]
      theirs?: LoggedChange[]
    },
  ) {
    super(body.message ?? `the server answered ${status}`)
    this.status = status
    this.code = body.error ?? 'unknown'
    this.issues = body.issues ?? []
    this.facts = body.facts ?? []
    this.theirs = body.theirs ?? []
  }
}
export class OfflineError extends Error {}

const call = async <T>(path: string, init: RequestInit = {}): Promise<T> => {
  let response: Response
  try {
    response = await fetch(`/api${path}`, { ...init, headers: { 'Content-Type': 'application/json' } })
  } catch (error) {
    throw new OfflineError('the server cannot be reached', { cause: error })
  }
  if (response.status >= 502 || response.status === 429)
    throw new OfflineError(`the server is not available (${response.status})`)
  if (!response.ok) throw new ApiError(response.status, (await response.json().catch(() => ({}))) as object)
  return (response.status === 204 ? undefined : await response.json()) as T
}
const post = <T>(path: string, body?: unknown): Promise<T> =>
  call<T>(path, { method: 'POST', body: typeof body === 'string' ? body : JSON.stringify(body ?? {}) })

/** A table of a file of another program, its cells as text. */
export interface Sheet {
  readonly name: string
  readonly rows: readonly (readonly string[])[]
}

/** How the columns of a list with these heads are read, and who sends such lists. */
export interface SheetMapping {
  readonly heads: string
  readonly sender: string
  readonly mapping: Readonly<Record<string, unknown>>
}

export const api = {
  /** @param file - a workbook (XLSX) */
  readWorkbook: (file: Blob) => call<Sheet[]>('/tables', { method: 'POST', body: file }),
  plans: () => call<PlanSummary[]>('/plans'),
  /** The calendars of every plan. */
  calendars: () => call<CalendarsOfPlan[]>('/plans/calendars'),
  sheetMappings: () => call<SheetMapping[]>('/sheet-mappings'),
  keepSheetMapping: (mapping: SheetMapping) =>
    call<void>('/sheet-mappings', { method: 'PUT', body: JSON.stringify(mapping) }),
  /** @param file - the text of a plan file */
  importPlan: (file: string) =>
    post<{ id: string; notes: PlanIssue[]; warnings: { message: string }[] }>('/plans', file),
  removePlan: (id: string) => call<void>(`/plans/${id}`, { method: 'DELETE' }),
  restorePlan: (id: string) => post<void>(`/plans/${id}/restore`),
  open: (id: string) => call<OpenedPlan>(`/plans/${id}`),
  send: (id: string, change: SentChange) => post<LoggedChange>(`/plans/${id}/changes`, change),
  changesSince: (id: string, revision: number) =>
    call<LoggedChange[]>(`/plans/${id}/changes?since=${revision}`),
  /** A page of changes before a revision, newest first. */
  changesBefore: (id: string, revision: number) =>
    call<LoggedChange[]>(`/plans/${id}/changes?before=${revision}`),
  events: (id: string, since: number) => new EventSource(`/api/plans/${id}/events?since=${since}`),
  /** The plan as it was at an earlier revision. */
  planAt: (id: string, revision: number) => call<Plan>(`/plans/${id}/revisions/${revision}`),
  reviewUrl: (id: string, kind: 'xlsx' | 'csv', scenario: string | null) =>
    `/api/plans/${id}/review.${kind}${scenario === null ? '' : `?scenario=${encodeURIComponent(scenario)}`}`,
  fileUrl: (id: string) => `/api/plans/${id}/file`,
  startRun: (id: string, input: RunInput) => post<Run>(`/plans/${id}/runs`, input),
  runs: (id: string) => call<Run[]>(`/plans/${id}/runs`),
  run: (id: string) => call<Run>(`/runs/${id}`),
  cancelRun: (id: string) => post<Run>(`/runs/${id}/cancel`),
}
