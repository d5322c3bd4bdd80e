import { z } from 'zod'
import {
  ASKER_HEADER,
  LOOKS,
  accountSchema,
  calendarsOfPlanSchema,
  errorBodySchema,
  factsOfPlanSchema,
  importedPlanSchema,
  keptPlanSchema,
  loggedChangeSchema,
  madeInvitationSchema,
  madeShareSchema,
  meSchema,
  openedPlanSchema,
  planAtSchema,
  planPeopleSchema,
  planSummarySchema,
  runInFullSchema,
  runSchema,
  saidThenSchema,
  shareSchema,
  sheetMappingSchema,
  sheetSchema,
  welcomeSchema,
  type ErrorBody,
  type Keeper,
  type LoggedChange,
  type LookAnswer,
  type LookKind,
  type LookRequest,
  type PlanFileName,
  type Role,
  type RunKind,
  type SentChange,
  type ShareRequest,
  type SheetMapping,
} from '@geodrome/core'

/** The server's answers, parsed. Errors come as {@link ApiError}; an unreachable server as {@link OfflineError}. */

export class ApiError extends Error {
  readonly status: number
  readonly code: string
  readonly issues: readonly { readonly pointer: string; readonly message: string }[]
  readonly facts: readonly string[]
  readonly theirs: readonly LoggedChange[]
  /** @param body - of the answer; whatever cannot be read of it is left out */
  constructor(status: number, body: Partial<ErrorBody> | unknown) {
    const read = errorBodySchema.safeParse(body)
    const { error, message, issues, facts, theirs } = read.success ? read.data : errorBodySchema.parse({})
    super(message ?? `the server answered ${status}`)
    this.status = status
    this.code = error
    this.issues = issues
    this.facts = facts
    this.theirs = theirs
  }
}
export class OfflineError extends Error {}
/** Nobody is signed in here any more, or somebody else is: what is asked for waits, as if the server were away. */
class SignedOutError extends OfflineError {}

let asker: string | null = null
let tellSignedOut = (): void => undefined
/** As whom this page asks: the server answers nobody else in its place, who signed in beside it in the same browser. */
export const asksAs = (account: string | null): void => void (asker = account)
/** Called when the server says that who asks is not signed in. */
export const onSignedOut = (tell: () => void): void => void (tellSignedOut = tell)

const nothing = z.undefined()

const call = async <T>(shape: z.ZodType<T>, path: string, init: RequestInit = {}): Promise<T> => {
  let response: Response
  let body: unknown
  try {
    const headers = { 'Content-Type': 'application/json', ...(asker !== null && { [ASKER_HEADER]: asker }) }
    response = await fetch(`/api${path}`, { ...init, headers })
    body = response.status === 204 ? undefined : await response.json().catch(() => ({}))
  } catch (error) {
    throw new OfflineError('the server cannot be reached', { cause: error })
  }
  if (response.status >= 502 || response.status === 429) {
    const said = errorBodySchema.safeParse(body)
    throw new OfflineError(
      (said.success && said.data.message) || `the server is not available (${response.status})`,
    )
  }
  const failure = response.ok ? null : new ApiError(response.status, body)
  if (failure?.code === 'signed-out') {
    tellSignedOut()
    throw new SignedOutError(failure.message)
  }
  if (failure) throw failure
  const read = shape.safeParse(body)
  if (read.success) return read.data
  throw new ApiError(500, {
    error: 'unreadable',
    message: `the server answers in another version’s words (${read.error.issues[0]!.path.join('/')}); load the page anew`,
  })
}
const post = <T>(shape: z.ZodType<T>, path: string, body?: unknown): Promise<T> =>
  call(shape, path, {
    method: 'POST',
    body: typeof body === 'string' ? body : JSON.stringify(body ?? {}),
  })

/** When an import is sent again whose answer did not come. */
const IMPORT_AGAIN_MS = [500, 2000]

const changes = z.array(loggedChangeSchema)

/** Which plan is meant: as it is, as a scenario sees it, as it was when something of it was kept ("baselines/b1"). */
export type PlanMeant = { readonly scenario?: string } | { readonly kept?: string }

export const api = {
  me: () => call(meSchema, '/me'),
  signIn: (name: string, password: string) => post(meSchema, '/sign-in', { name, password }),
  signOut: () => post(nothing, '/sign-out'),
  /** Whom a link welcomes. */
  welcome: (token: string) => post(welcomeSchema, '/welcome', { token }),
  acceptWelcome: (token: string, password: string, name?: string) =>
    post(meSchema, '/welcome/accept', { token, password, name }),
  accounts: () => call(z.array(accountSchema), '/accounts'),
  invite: (name: string, administrator: boolean) =>
    post(madeInvitationSchema, '/accounts', { name, administrator }),
  /** A link to choose a password anew. */
  welcomeAgain: (account: string) => post(madeInvitationSchema, `/accounts/${account}/welcome`),
  changeAccount: (account: string, change: { readonly closed?: boolean; readonly administrator?: boolean }) =>
    call(accountSchema, `/accounts/${account}`, { method: 'PATCH', body: JSON.stringify(change) }),
  /** Who has a part in a plan. */
  people: (id: string) => call(planPeopleSchema, `/plans/${id}/people`),
  giveRole: (id: string, account: string, role: Role | null) =>
    call(nothing, `/plans/${id}/people/${account}`, { method: 'PUT', body: JSON.stringify({ role }) }),
  /** @param file - a workbook (XLSX) */
  readWorkbook: (file: Blob) => call(z.array(sheetSchema), '/tables', { method: 'POST', body: file }),
  plans: () => call(z.array(planSummarySchema), '/plans'),
  /** The calendars of every plan. */
  calendars: () => call(z.array(calendarsOfPlanSchema), '/plans/calendars'),
  sheetMappings: () => call(z.array(sheetMappingSchema), '/sheet-mappings'),
  keepSheetMapping: (mapping: SheetMapping) =>
    call(nothing, '/sheet-mappings', { method: 'PUT', body: JSON.stringify(mapping) }),
  /** @param file - the text of a plan file */
  importPlan: async (file: string) => {
    // An answer that was lost is asked for again: by its name the server knows an import that it has made.
    const path = `/plans?uid=${crypto.randomUUID()}`
    for (const wait of IMPORT_AGAIN_MS)
      try {
        return await post(importedPlanSchema, path, file)
      } catch (error) {
        if (!(error instanceof OfflineError)) throw error
        await new Promise((resolve) => setTimeout(resolve, wait))
      }
    return post(importedPlanSchema, path, file)
  },
  /** A plan of its own with all that is in another one; its log begins anew. */
  copyPlan: async (id: string, name: string) => {
    const file = await call(z.looseObject({ project: z.looseObject({}) }), `/plans/${id}/file`)
    return api.importPlan(JSON.stringify({ ...file, project: { ...file.project, name } }))
  },
  removePlan: (id: string) => call(nothing, `/plans/${id}`, { method: 'DELETE' }),
  /** Puts a plan away, or back. */
  archivePlan: (id: string, archived: boolean) =>
    call(nothing, `/plans/${id}`, { method: 'PATCH', body: JSON.stringify({ archived }) }),
  /** What a plan comes to, for the list of plans. */
  facts: (id: string) => call(factsOfPlanSchema, `/plans/${id}/facts`),
  /** Links by which others see a plan. */
  shares: (id: string) => call(z.array(shareSchema), `/plans/${id}/shares`),
  share: (id: string, asked: ShareRequest) => post(madeShareSchema, `/plans/${id}/shares`, asked),
  revokeShare: (id: string, share: string) =>
    call(nothing, `/plans/${id}/shares/${share}`, { method: 'DELETE' }),
  restorePlan: (id: string) => post(nothing, `/plans/${id}/restore`),
  open: (id: string) => call(openedPlanSchema, `/plans/${id}`),
  send: (id: string, change: SentChange) => post(loggedChangeSchema, `/plans/${id}/changes`, change),
  /** Which of these changes are in the plan's log. */
  stored: (id: string, uids: readonly string[]) =>
    post(z.array(z.string()), `/plans/${id}/changes/stored`, { uids }),
  changesSince: (id: string, revision: number) => call(changes, `/plans/${id}/changes?since=${revision}`),
  /** A page of changes before a revision, newest first. */
  changesBefore: (id: string, revision: number) => call(changes, `/plans/${id}/changes?before=${revision}`),
  events: (id: string, since: number) => new EventSource(`/api/plans/${id}/events?since=${since}`),
  /** The plan as it was at an earlier revision. */
  planAt: (id: string, revision: number) => call(planAtSchema, `/plans/${id}/revisions/${revision}`),
  /** The plan as it was when a baseline was frozen or an update was kept. */
  planWhenKept: (id: string, list: Keeper, key: string) =>
    call(keptPlanSchema, `/plans/${id}/kept/${list}/${encodeURIComponent(key)}`),
  /** What a baseline or a period says, by activity. */
  said: (id: string, list: Keeper, key: string) =>
    call(saidThenSchema, `/plans/${id}/said/${list}/${encodeURIComponent(key)}`),
  /** Tables of a plan as a file. @param table - the one that a CSV holds; the first where it is left out */
  recordUrl: (
    id: string,
    record: 'review' | 'resources' | 'progress' | 'update',
    kind: 'xlsx' | 'csv',
    {
      of,
      table,
      weeks,
      until,
    }: {
      readonly of: PlanMeant
      readonly table?: string
      readonly weeks?: number
      readonly until?: string
    },
  ) => {
    const asked = new URLSearchParams({ ...of })
    if (table !== undefined) asked.set('table', table)
    if (weeks !== undefined) asked.set('weeks', String(weeks))
    if (until !== undefined) asked.set('until', until)
    return `/api/plans/${id}/${record}.${kind}${asked.size === 0 ? '' : `?${asked.toString()}`}`
  },
  /** The plan as a file of one of {@link PLAN_FILES}; without a format the plan file. */
  fileUrl: (id: string, format?: PlanFileName, of: PlanMeant = {}) => {
    if (format === undefined) return `/api/plans/${id}/file`
    const asked = new URLSearchParams({ ...of })
    return `/api/plans/${id}/files/${format}${asked.size === 0 ? '' : `?${asked.toString()}`}`
  },
  /** @param revision - of the plan that it is about; as it is where none is said */
  startRun: (id: string, kind: RunKind, input: unknown, revision?: number) =>
    post(runSchema, `/plans/${id}/runs`, { kind, input, revision }),
  /** The latest runs of a plan, without what came of them. */
  runs: (id: string) => call(z.array(runSchema), `/plans/${id}/runs`),
  run: (id: string, run: string) => call(runInFullSchema, `/plans/${id}/runs/${run}`),
  cancelRun: (id: string, run: string) => post(runInFullSchema, `/plans/${id}/runs/${run}/cancel`),
  nameRun: (id: string, run: string, name: string) =>
    call(runInFullSchema, `/plans/${id}/runs/${run}`, { method: 'PATCH', body: JSON.stringify({ name }) }),
  dropRun: (id: string, run: string) => call(nothing, `/plans/${id}/runs/${run}`, { method: 'DELETE' }),
  /** What is asked of a run that is there. */
  look: <K extends LookKind>(id: string, run: string, kind: K, question: LookRequest<K>) =>
    post(LOOKS[kind].answer as unknown as z.ZodType<LookAnswer<K>>, `/plans/${id}/runs/${run}/look`, {
      kind,
      question,
    }),
}
