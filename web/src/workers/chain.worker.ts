import {
  chainReport,
  chainSettings,
  chainTest,
  currentChain,
  agreement,
  feverPoints,
  type AgreedChain,
  type BufferTest,
  type ChainReport,
  type ChainSettings,
  type FeverPoint,
  type Plan,
} from '@geodrome/core'
import { serveLongWork } from './longWork.ts'

export interface ChainQuestion {
  readonly plan: Plan
  readonly iterations: number
  readonly seed: number
  /** The day on which it is asked, for what is not agreed yet. */
  readonly today: string
}
type Sizing = ChainSettings['sizing']
/** The chain of a plan, part by part as it is found. */
export type ChainPart =
  /** As it would be agreed now, and what is said of it. */
  | { readonly kind: 'report'; readonly report: ChainReport; readonly proposed: AgreedChain }
  /** As it stands against what was agreed. */
  | {
      readonly kind: 'now'
      readonly points: readonly FeverPoint[]
      readonly dates: Readonly<Record<string, { readonly start: number; readonly finish: number }>>
    }
  /** Whether its buffers are enough, of the agreed chain where there is one. */
  | { readonly kind: 'test'; readonly test: readonly BufferTest[] }
  /** What each way of sizing would promise. */
  | {
      readonly kind: 'sizing'
      readonly sizing: Sizing
      readonly days: number
      readonly promised: string
    }

const SIZINGS = ['half', 'root-squares', 'simulated'] as const

serveLongWork<ChainQuestion, ChainPart>(({ plan, iterations, seed, today }, say) => {
  const settings = chainSettings(plan)
  const proposed = agreement(plan, settings, today)
  say({ kind: 'report', report: chainReport(plan, settings), proposed })
  const { agreed } = settings
  if (agreed) {
    const { made } = currentChain(plan, settings, agreed)
    say({
      kind: 'now',
      points: feverPoints(plan, settings, agreed),
      dates: Object.fromEntries(
        plan.activities.map(({ id }, i) => [
          id,
          { start: made.early.start[i]!, finish: made.early.finish[i]! },
        ]),
      ),
    })
  }
  for (const sizing of SIZINGS) {
    const { buffers, promised } = chainReport(plan, { ...settings, sizing })
    say({ kind: 'sizing', sizing, days: buffers.find(({ kind }) => kind === 'project')?.size ?? 0, promised })
  }
  const measured = agreed ?? proposed
  const options = { iterations, seed, sampling: 'lhs', risks: true } as const
  say({ kind: 'test', test: chainTest(plan, settings, measured, options) })
})
