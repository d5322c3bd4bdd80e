import { toRaw } from 'vue'
import type { Change, Plan, SheetsReading } from '@geodrome/core'
import type {
  Comparison,
  Explained,
  ListToRead,
  Probe,
  ScheduledReply,
  ScheduleReply,
  ScheduleRequest,
  Trial,
  Unscheduled,
} from './scheduleProtocol.ts'
import type { QuestionAnswer, QuestionInput, QuestionName } from './questions.ts'
import { WaitingAnswers } from './waitingAnswers.ts'
import ScheduleWorker from './schedule.worker.ts?worker'

export interface ScheduleListener {
  scheduled(reply: ScheduledReply): void
  refused(why: Unscheduled): void
}
type Request = ScheduleRequest extends infer R
  ? R extends { requestId: number }
    ? Omit<R, 'requestId'>
    : never
  : never

/** The page's end of the schedule worker: answers to an older plan than the one last given are dropped. */
export class ScheduleClient {
  private readonly worker = new ScheduleWorker()
  private readonly waiting = new WaitingAnswers<ScheduleReply>()
  private version = 0

  constructor(listener: ScheduleListener) {
    this.worker.onmessage = ({ data }: MessageEvent<ScheduleReply>) => {
      if (data.kind === 'scheduled' || data.kind === 'refused') {
        if (data.version !== this.version) return
        if (data.kind === 'scheduled') listener.scheduled(data)
        else listener.refused(data)
        return
      }
      this.waiting.answer(data.requestId, data)
    }
  }

  load(plan: Plan): void {
    this.post({ kind: 'load', version: ++this.version, plan: toRaw(plan) })
  }
  change(change: Change): void {
    this.post({ kind: 'change', version: ++this.version, change: toRaw(change) })
  }
  async explain(activity: string): Promise<Explained> {
    const reply = await this.ask({ kind: 'explain', activity } as Request)
    return reply.kind === 'explained' ? reply.explanation : null
  }
  async probe(activity: string): Promise<Probe | null> {
    const reply = await this.ask({ kind: 'probe', activity } as Request)
    return reply.kind === 'probed' ? reply.probe : null
  }
  async try(changes: readonly Change[]): Promise<readonly Trial[]> {
    const reply = await this.ask({ kind: 'try', changes: changes.map((change) => toRaw(change)) } as Request)
    return reply.kind === 'tried' ? reply.trials : []
  }
  /** @throws Error with what is wrong, where the other plan cannot be scheduled */
  async compare(plan: Plan): Promise<Comparison | null> {
    const reply = await this.ask({ kind: 'compare', plan: toRaw(plan) } as Request)
    if (reply.kind !== 'compared' || reply.comparison === null) return null
    if ('problem' in reply.comparison) throw new Error(reply.comparison.problem)
    return reply.comparison
  }
  /** Asks something about the plan in view. @throws Error with why there is no answer */
  async question<N extends QuestionName>(name: N, input: QuestionInput<N>): Promise<QuestionAnswer<N>> {
    const reply = await this.ask({ kind: 'ask', name, input: toRaw(input) } as Request)
    if (reply.kind !== 'answered') throw new Error('the plan was closed')
    if ('problem' in reply.answer) throw new Error(reply.answer.problem)
    return reply.answer.value as QuestionAnswer<N>
  }
  /** Reads a list beside the page. @returns null where there is no plan to read it into */
  async readList(list: ListToRead): Promise<SheetsReading | null> {
    const reply = await this.ask({
      kind: 'read-list',
      list: {
        ...list,
        plan: toRaw(list.plan),
        sheets: list.sheets.map((sheet) => ({ ...sheet, cells: toRaw(sheet.cells) })),
      },
    } as Request)
    return reply.kind === 'list-read' ? reply.reading : null
  }
  /** Nothing is answered any more; whoever waits is told so. */
  stop(): void {
    this.worker.terminate()
    this.waiting.answerAll({
      kind: 'refused',
      version: this.version,
      message: 'the plan was closed',
      activity: null,
      calendar: null,
    })
  }

  private ask(request: Request): Promise<ScheduleReply> {
    return this.waiting.ask((requestId) => this.post({ ...request, requestId } as ScheduleRequest))
  }
  private post(request: ScheduleRequest): void {
    this.worker.postMessage(request)
  }
}
